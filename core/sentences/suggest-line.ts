/** What a typed line, such as a price, could go on with: the frame of it, and the names such lines hold. */
import { plural } from './lexicon'
import type { Lexicon, Named } from './lexicon'
import { beginningWith, folded } from './names'

export interface LineSuggestion {
  text: string
  /** The part of the text it stands for. */ from: number
  to: number
}
const mostNames = 40

/**
 * At most `most`. `missing`: what could come between words; `all`: what a begun word could be, fitting those words; `digits`:
 * what a bare number could mean.
 */
export function suggestLine(
  text: string,
  cursor: number,
  {
    missing,
    all,
    digits,
  }: { missing(before: string): string[]; all(words: string[]): string[]; digits(one: string): string[] },
  most: number,
): LineSuggestion[] {
  const before = text.slice(0, cursor)
  // Names have several words: what is typed may be the last three, two, or one of them.
  const starts = [...before.matchAll(/(?<=^|[\s,;])\S+/g)].map(match => match.index).slice(-3)
  const isBetween = /(^|[\s,;])$/.test(before)
  const found: LineSuggestion[] = []
  const add = (one: string, from: number) => {
    if (found.length < most && !found.some(known => known.text === one)) found.push({ text: one, from, to: cursor })
  }
  const fitting = (typed: string) => {
    const number = /^[-=]?\s?(\d+(?:[.,]\d*)?)$/.exec(typed)?.[1]
    if (number) return digits(number)
    const words = folded(typed).split(/\s+/)
    return all(words).filter(one => isBegun(folded(one), words) && folded(one) !== folded(typed))
  }
  if (isBetween) for (const one of missing(before)) add(one, cursor)
  else for (const from of starts) for (const one of fitting(before.slice(from))) add(one, from)
  return found
}

/** Each word begins one of its words, in their order. */
function isBegun(text: string, words: readonly string[]): boolean {
  const parts = text.split(/[\s,"#]+/).filter(Boolean)
  let at = 0
  return words.every(word => {
    const found = parts.findIndex((part, i) => i >= at && part.startsWith(word))
    at = found + 1
    return found >= 0
  })
}

export const some = (list: readonly Named[], words: readonly string[]) =>
  beginningWith(list, words, mostNames).slice(0, mostNames)

export function whoNames({ levels, roles, firms, people }: Lexicon, words: readonly string[] = []): string[] {
  return [
    ...roles.map(one => plural(one.name)),
    ...levels.map(one => `${one.name} or above`),
    'guests',
    'everyone',
    ...(words.length ? [...some(firms, words), ...some(people, words)].map(one => one.name) : []),
  ]
}
