/** What a sentence could go on with at the cursor: everything a rule can say, by the words typed so far. */
import { keyOf } from '../conditions/condition'
import type { Condition } from '../conditions/condition'
import { leafKeys } from '../conditions/leaves/leaves'
import type { LeafKey } from '../conditions/leaves/leaves'
import { kinds } from '../kinds/kinds'
import { families } from './families'
import type { Family } from './families'
import { beginningWith } from './names'
import { phrasesOf, taughtOf } from './phrases'
import type { Lexicon } from './lexicon'
import { read } from './read'
import { sayText } from './say'

interface Found {
  text: string
  family: Family
  /** Of a phrase: what it means. */
  condition?: Condition
  /** Of one with a blank, in place of that: what stands in the field once it is taken. */
  fill?: string
}
/** A phrase, as it would be written, or one with a blank; and the part of the text it stands for. */
export interface Suggestion extends Found {
  from: number
  to: number
}

/**
 * What could be said for the words before `cursor`, best first: at most `most` (default 12) phrases. Where nothing is
 * typed, everything that can be said, family by family, with blanks. `today` (`YYYY-MM-DD`) completes dates.
 */
export function suggest(text: string, cursor: number, lexicon: Lexicon, today: string, most = 12): Suggestion[] {
  const from = fragmentStart(text.slice(0, cursor))
  const typed = text.slice(from, cursor).trim()
  const found = typed
    ? forWords(text.slice(from, cursor).trimStart(), lexicon, today, most)
    : opening(lexicon, !/\bnot\s+$/i.test(text.slice(0, from)))
  return found.map(one => ({ ...one, from, to: cursor }))
}

const phrased = (condition: Condition, lexicon: Lexicon): Found => ({
  text: sayText(condition, lexicon),
  family: taughtOf(leafOf(condition)).family,
  condition,
})
const leafOf = (condition: Condition): LeafKey => {
  const [key, argument] = keyOf(condition)
  return key === 'not' ? leafOf(argument as Condition) : (key as LeafKey)
}

/** Of what exists, so many of each leaf stand in an empty picker: the rest is found by typing. */
const mostReady = 8

/** Turning a phrase round is in sight from the first: nobody looks for a word they do not know is there. */
const turned: Found = { text: 'not …', fill: 'not ', family: 'holds' }

function opening(lexicon: Lexicon, isTurnable: boolean): Found[] {
  const [first, ...others] = (Object.keys(families) as Family[]).map(family => openingOf(family, lexicon))
  return [...first!, ...(isTurnable ? [turned] : []), ...others.flat()]
}

/** Roles come before levels: there are few of them, and they are what most rules are about. */
const early: readonly LeafKey[] = ['role']
const inOrder = [...early, ...leafKeys.filter(key => !early.includes(key))]

function openingOf(family: Family, lexicon: Lexicon): Found[] {
  return inOrder
    .filter(key => taughtOf(key).family === family && isOffered(key, lexicon))
    .flatMap((key): Found[] => [
      ...offeredBy('first', key, lexicon)
        .slice(0, mostReady)
        .map(condition => phrased(condition, lexicon)),
      ...taughtOf(key).blanks.map(({ text, fill }) => ({ text, fill, family })),
    ])
}

/** Records and fields of the operator's own are told of where there are some. */
const needs: Partial<Record<Family, keyof Pick<Lexicon, 'fields' | 'facts'>>> = { record: 'fields', facts: 'facts' }
const isOffered = (key: LeafKey, lexicon: Lexicon) => {
  const list = needs[taughtOf(key).family]
  return !list || lexicon[list].length > 0
}

function forWords(fragment: string, lexicon: Lexicon, today: string, most: number): Found[] {
  const typed = fragment.trim()
  const words = typed.toLowerCase().split(between).filter(Boolean)
  const asTyped = understood(typed, lexicon, today)
  const ranked: { found: Found; rank: number; i: number }[] = []
  const seen = new Set<string>()
  const put = (found: Found, rank: number) => {
    if (rank <= 0 || seen.has(found.text)) return
    seen.add(found.text)
    ranked.push({ found, rank, i: ranked.length })
  }
  for (const condition of asTyped) put(phrased(condition, lexicon), 5)
  const few = narrowed(lexicon, words)
  for (const key of leafKeys) {
    const { meaning = {}, blanks } = taughtOf(key)
    for (const [word, argument] of Object.entries(meaning))
      if (isCalled([word], words.join(' '))) put(phrased({ [key]: argument } as Condition, lexicon), 2.5)
    const rest = words.filter(word => !isCalled(taughtOf(key).alsoCalled, word))
    const all = [...offeredBy('first', key, few), ...offeredBy('more', key, few)]
    let byOtherName = 0
    for (const condition of all) {
      const found = phrased(condition, lexicon)
      const phrase = found.text.toLowerCase()
      const rank = rankOf(phrase, words)
      if (rank) put(found, rank)
      else if (
        rest.length < words.length &&
        rankOf(phrase, rest) &&
        (rest.length > 0 || byOtherName++ < mostByOtherName)
      )
        put(found, rest.length ? 1.5 : 0.5)
    }
    if (!isOffered(key, lexicon)) continue
    for (const { text, fill } of blanks) {
      const isTaken = fragment.toLowerCase().startsWith(fill)
      if (!isTaken && (rankOf(text.toLowerCase(), words) || !rest.length))
        put({ text, fill, family: taughtOf(key).family }, 0.7)
    }
  }
  ranked.sort((a, b) => b.rank - a.rank || a.i - b.i)
  const best = ranked.slice(0, most).map(one => one.found)
  const negated = ranked
    .slice(0, 2)
    .flatMap(({ found, rank }): Found[] =>
      rank >= 1 && found.condition && ('level' in found.condition || 'role' in found.condition)
        ? [{ text: `not ${found.text}`, family: found.family, condition: { not: found.condition } as Condition }]
        : [],
    )
  return [...best.slice(0, most - negated.length), ...negated]
}

/** Of a leaf found by an everyday word alone, so many phrases besides its blanks. */
const mostByOtherName = 3
/** Short words stand for themselves, longer ones may be left unfinished. */
const isCalled = (names: readonly string[] = [], word: string) =>
  [word, word.replace(/s$/, '')].some(one =>
    names.some(name => name === one || (one.length >= 3 && name.startsWith(one))),
  )

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

/** What stands between the words of a phrase, typed or said. */
const between = /[\s"#(),/-]+/

function rankOf(phrase: string, words: readonly string[]): number {
  const parts = phrase.split(between)
  if (!words.every(word => parts.some(part => part.startsWith(word)))) return 0
  return phrase.startsWith(words.join(' ')) ? 3 : parts[0]!.startsWith(words[0]!) ? 2 : 1
}

/** Of very many things only those are offered whose names are typed: nobody reads a hundred thousand phrases. */
const mostOfAKind = 60
const narrowed = (lexicon: Lexicon, words: readonly string[]): Lexicon => ({
  ...lexicon,
  people: [...beginningWith(lexicon.people, words, mostOfAKind)],
  firms: [...beginningWith(lexicon.firms, words, mostOfAKind)],
  things: Object.fromEntries(
    kinds.map(kind => [kind, beginningWith(lexicon.things[kind], words, mostOfAKind)]),
  ) as Lexicon['things'],
})

const offeredBy = (which: 'first' | 'more', key: LeafKey, lexicon: Lexicon): Condition[] =>
  (phrasesOf(key)[which]?.(lexicon) ?? []).map(argument => ({ [key]: argument }) as Condition)
