/** Somebody who could ask, in words: what is known of them and nothing else. */
import { localTime, timeOf } from '~~/core/calendar'
import type { Lexicon } from '~~/core/sentences/lexicon'
import { called } from '~~/core/sentences/names'
import { dateText, moneyText } from '~~/core/sentences/values'
import type { AsIf } from '~~/core/visitor/as-if'
import { textParts } from '~~/core/visitor/request-parts'
import type { Visitor } from '~~/core/visitor/visitor'
import { asIfWord } from './as-if-words'

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
    ...(bought.spent ? [`who spent ${moneyText(bought.spent, lexicon.moneyDigits)}`] : []),
    ...basket.map(line => `with ${called(lexicon.things.product, line.product)} in the basket`),
    ...Object.entries(facts).map(([id, value]) => `${called(lexicon.facts, id)}: ${String(value)}`),
    ...textParts.flatMap(part => (request[part] ? [asIfWord({ [part]: request[part] } as AsIf, lexicon)] : [])),
    ...Object.entries(request.query ?? {}).map(([name, value]) => `with ?${name}=${value}`),
    ...(isNow ? [] : [`on ${dateText(local.date)} at ${timeOf(local.minutes)}`]),
  ].join(', ')
}
