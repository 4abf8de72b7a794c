/** What a sentence could go on with at the cursor: everything a rule can say, by the words typed so far. */
import type { Condition } from '../conditions/condition'
import { leafKeys } from '../conditions/leaves/leaves'
import { kinds } from '../kinds/kinds'
import { beginningWith } from './names'
import { phrasesOf } from './phrases'
import type { Lexicon } from './lexicon'
import { read } from './read'
import { sayText } from './say'

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
  const offered = [...asTyped, ...(words.length ? catalogue(narrowed(lexicon, words)) : opening(lexicon))]
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

/** What is typed as a whole phrase, or as the value of one: dates, times, lengths of time. */
function understood(typed: string, lexicon: Lexicon, today: string): Condition[] {
  if (!typed) return []
  const tries = [typed, ...leafKeys.flatMap(key => phrasesOf(key).around?.(typed) ?? [])]
  return tries.flatMap(sentence => {
    const result = read(sentence, lexicon, today)
    return result.ok ? [result.condition] : []
  })
}

function rankOf(phrase: string, words: readonly string[]): number {
  const parts = phrase.split(/[\s"#(),/-]+/)
  if (!words.every(word => parts.some(part => part.startsWith(word)))) return 0
  return phrase.startsWith(words.join(' ')) ? 3 : parts[0]!.startsWith(words[0]!) ? 2 : 1
}

/** Of very many things only those are offered whose names are typed: nobody reads a hundred thousand phrases. */
const mostOfAKind = 60
const narrowed = (lexicon: Lexicon, words: readonly string[]): Lexicon => ({
  ...lexicon,
  people: [...beginningWith(lexicon.people, words, mostOfAKind)],
  things: Object.fromEntries(
    kinds.map(kind => [kind, beginningWith(lexicon.things[kind], words, mostOfAKind)]),
  ) as Lexicon['things'],
})

const offeredBy = (which: 'first' | 'more', lexicon: Lexicon): Condition[] =>
  leafKeys.flatMap(key => (phrasesOf(key)[which]?.(lexicon) ?? []).map(argument => ({ [key]: argument }) as Condition))
const opening = (lexicon: Lexicon) => offeredBy('first', lexicon)
const catalogue = (lexicon: Lexicon) => [...opening(lexicon), ...offeredBy('more', lexicon)]
