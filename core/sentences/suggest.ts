/** What a sentence could go on with at the cursor: everything a rule can say, by the words typed so far. */
import type { Condition } from '../conditions/condition'
import { kinds } from '../rulebook/kinds'
import type { Lexicon } from './lexicon'
import { read } from './read'
import { sayText } from './say'
import { countries, weekdayNames } from './words'

export interface Suggestion {
  /** The phrase, as it would be written. */
  text: string
  condition: Condition
  /** The part of the text it stands for: from `from` to `to`. */
  from: number
  to: number
}

/** At most `most` (default 12) phrases for the words before `cursor`, best first. `today` (`YYYY-MM-DD`) completes dates. */
export function suggest(text: string, cursor: number, lexicon: Lexicon, today: string, most = 12): Suggestion[] {
  const from = fragmentStart(text.slice(0, cursor))
  const typed = text.slice(from, cursor).trim()
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean)
  const asTyped = understood(typed, lexicon, today)
  const offered = [...asTyped, ...(words.length ? catalogue(lexicon) : opening(lexicon))]
  const seen = new Set<string>()
  const ranked = offered.flatMap((condition, i) => {
    const phrase = sayText(condition, lexicon)
    const rank = i < asTyped.length ? 4 : words.length ? rankOf(phrase.toLowerCase(), words) : 1
    if (rank === 0 || seen.has(phrase)) return []
    seen.add(phrase)
    return [{ condition, phrase, rank, i }]
  })
  ranked.sort((a, b) => b.rank - a.rank || a.i - b.i)
  const best = ranked.slice(0, most)
  const negated = best
    .slice(0, 2)
    .filter(one => 'level' in one.condition || 'role' in one.condition)
    .map(one => ({ ...one, condition: { not: one.condition } as Condition, phrase: `not ${one.phrase}` }))
  return [...best.slice(0, most - negated.length), ...(words.length ? negated : [])].map(one => ({
    text: one.phrase,
    condition: one.condition,
    from,
    to: cursor,
  }))
}

/** Where the phrase being typed begins: after the last join, bracket or `not`. */
function fragmentStart(before: string): number {
  const boundaries = [...before.matchAll(/(?:^|[\s(])(?:and|or|not)\s+|[()]\s*/gi)].filter(
    match => !/^\s*or\s+$/i.test(match[0]) || !/^abov?e?/i.test(before.slice(match.index + match[0].length)),
  )
  const last = boundaries.at(-1)
  return last ? last.index + last[0].length : before.length - before.trimStart().length
}

/** Dates, times, durations and whole phrases that can already be read. */
function understood(typed: string, lexicon: Lexicon, today: string): Condition[] {
  if (!typed) return []
  const tries = [
    typed,
    `from ${typed}`,
    `until ${typed}`,
    `on ${typed}`,
    `member for ${typed}`,
    `ordered at least ${typed} times`,
    `spent at least ${typed}`,
    `between ${typed.replace(/\s*(?:to|–|-)\s*/, ' and ')}`,
    `network ${typed}`,
    `coming from ${typed}`,
    `in region ${typed}`,
    `reading ${typed}`,
  ]
  const limited = /^\d/.test(typed)
    ? tries
    : tries.filter(
        one =>
          !/^(reading|coming from|ordered|spent) /.test(one) ||
          one === typed ||
          (/\./.test(typed) && one.startsWith('coming')),
      )
  return limited.flatMap(sentence => {
    const result = read(sentence, lexicon, today)
    return result.ok ? [result.condition] : []
  })
}

function rankOf(phrase: string, words: readonly string[]): number {
  const parts = phrase.split(/[\s"#(),/-]+/)
  if (!words.every(word => parts.some(part => part.startsWith(word)))) return 0
  return phrase.startsWith(words.join(' ')) ? 3 : parts[0]!.startsWith(words[0]!) ? 2 : 1
}

function opening(lexicon: Lexicon): Condition[] {
  return [
    { everyone: true },
    { signedIn: true },
    { signedIn: false },
    ...lexicon.levels.map(({ id }): Condition => ({ level: { atLeast: id } })),
    ...lexicon.roles.map(({ id }): Condition => ({ role: { anyOf: [id] } })),
    ...lexicon.audiences.map(({ id }): Condition => ({ audience: id })),
  ]
}

function catalogue(lexicon: Lexicon): Condition[] {
  return [
    ...opening(lexicon),
    { nobody: true },
    ...lexicon.levels.flatMap(({ id }): Condition[] => [
      { level: { atMost: id } },
      { level: { in: [id] } },
      { memberFor: { atLeast: 'P30D', level: id } },
    ]),
    { memberFor: { atLeast: 'P30D' } },
    ...lexicon.permissions.map(({ id }): Condition => ({ permission: id })),
    ...(['phone', 'tablet', 'desktop'] as const).map((one): Condition => ({ device: { in: [one] } })),
    ...Object.keys(weekdayNames).map((day): Condition => ({ weekday: { in: [day as 'mon'] } })),
    { orders: { atLeast: 1 } },
    { spent: { atLeast: 5000 } },
    { time: { from: '09:00', until: '17:00' } },
    ...lexicon.facts.map(({ id }): Condition => ({ fact: { name: id } })),
    ...lexicon.things.product.flatMap(({ id }): Condition[] => [
      { bought: { product: id } },
      { basket: { product: id } },
    ]),
    ...lexicon.things.category.flatMap(({ id }): Condition[] => [
      { bought: { category: id } },
      { basket: { category: id } },
    ]),
    ...countries().map(({ id }): Condition => ({ country: { in: [id] } })),
    ...lexicon.firms.map(({ id }): Condition => ({ firm: { in: [id] } })),
    ...lexicon.people.map(({ id }): Condition => ({ person: { in: [id] } })),
    ...kinds.flatMap(kind =>
      kind === 'menuItem' || kind === 'field'
        ? []
        : lexicon.things[kind].map(({ id }): Condition => ({ opens: { [kind]: id } })),
    ),
    ...lexicon.fields.map(({ id }): Condition => ({ assigned: id })),
    { mine: true },
  ]
}
