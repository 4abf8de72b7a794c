/** Somebody who could ask, in words: what is known of them and nothing else. */
import { localTime } from '~~/core/calendar'
import type { Lexicon, Named } from '~~/core/sentences/lexicon'
import { dateText } from '~~/core/sentences/values'
import type { AsIf } from '~~/core/visitor/as-if'
import { textParts } from '~~/core/visitor/request-parts'
import type { Visitor } from '~~/core/visitor/visitor'
import { asIfWord } from './as-if-words'

const called = (list: readonly Named[], id: string) => list.find(one => one.id === id)?.name ?? id
const clock = (minutes: number) =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`

/** “somebody signed in with Maker, in Spain, on 1 Dec 2026 at 21:00”. */
export function visitorWords(visitor: Visitor, lexicon: Lexicon, timezone: string, nowMs: number): string {
  const { request = {}, bought = {}, levels = [], roles = [], basket = [], facts = {} } = visitor
  const held = [...levels.map(one => called(lexicon.levels, one.level)), ...roles.map(id => called(lexicon.roles, id))]
  const who = !visitor.person
    ? 'a guest'
    : visitor.person.id !== 'somebody'
      ? called(lexicon.people, visitor.person.id)
      : held.length
        ? 'somebody'
        : 'somebody signed in'
  const at = request.at ? Date.parse(request.at) : nowMs
  const local = localTime(at, timezone)
  const isNow = Math.abs(at - nowMs) < 120_000
  return [
    held.length ? `${who} with ${held.join(' and ')}` : who,
    ...(visitor.firm ? [`in the firm ${called(lexicon.firms, visitor.firm)}`] : []),
    ...(bought.products ?? []).map(id => `who bought ${called(lexicon.things.product, id)}`),
    ...(bought.categories ?? []).map(id => `who bought from ${called(lexicon.things.category, id)}`),
    ...(bought.orders ? [`with ${bought.orders} orders`] : []),
    ...(bought.spent ? [`who spent ${(bought.spent / 100).toFixed(2)}`] : []),
    ...basket.map(line => `with ${called(lexicon.things.product, line.product)} in the basket`),
    ...Object.entries(facts).map(([id, value]) => `${called(lexicon.facts, id)}: ${String(value)}`),
    ...textParts.flatMap(part => (request[part] ? [asIfWord({ [part]: request[part] } as AsIf, lexicon)] : [])),
    ...Object.entries(request.query ?? {}).map(([name, value]) => `with ?${name}=${value}`),
    ...(isNow ? [] : [`on ${dateText(local.date)} at ${clock(local.minutes)}`]),
  ].join(', ')
}
