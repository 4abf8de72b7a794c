/** What an offer could go on with as it is typed: who, what it is on, how much, from how many, and the rest that can be said. */
import { plural, written } from './lexicon'
import type { Lexicon, Named } from './lexicon'
import { beginningWith, folded } from './names'
import { readOffer } from './read-offer'

export interface OfferSuggestion {
  text: string
  /** The part of the text it stands for. */ from: number
  to: number
}

const howMuch = ['15 % off', '-5', '= 20']
const rest = [
  'from 10',
  'not on goods on sale',
  'off the regular price',
  'counted over all colours',
  'counted over each colour',
  'on baskets from 180',
  'buy 2 get 1',
  'with code ',
  'on top of others',
]
const mostNames = 40

/** At most `most` (default 8), what is still missing first. */
export function suggestOffer(text: string, cursor: number, lexicon: Lexicon, most = 8): OfferSuggestion[] {
  const before = text.slice(0, cursor)
  // Names have several words: what is typed may be the last three, two, or one of them.
  const starts = [...before.matchAll(/(?<=^|[\s,;])\S+/g)].map(match => match.index).slice(-3)
  const isBetween = /(^|[\s,;])$/.test(before)
  const found: OfferSuggestion[] = []
  const add = (one: string, from: number) => {
    if (found.length < most && !found.some(known => known.text === one)) found.push({ text: one, from, to: cursor })
  }
  if (isBetween) for (const one of missing(before, lexicon)) add(one, cursor)
  else for (const from of starts) for (const one of fitting(before.slice(from), lexicon)) add(one, from)
  return found
}

function missing(before: string, lexicon: Lexicon): string[] {
  if (!before.trim()) return [...whoNames(lexicon), ...howMuch]
  const read = readOffer(before, lexicon)
  const hasOff = read.ok || /%|=|-\s?\d| off\b/.test(before)
  if (!hasOff) return [...howMuch, ...scopeNames(lexicon, [])]
  const assumed = read.ok ? read.read.assumed : []
  return [
    ...(assumed.includes('on') ? scopeNames(lexicon, []).slice(0, 5) : []),
    ...(assumed.includes('for') ? whoNames(lexicon).slice(0, 4) : []),
    ...rest.filter(one => !before.includes(one)),
  ]
}

function fitting(typed: string, lexicon: Lexicon): string[] {
  const digits = /^[-=]?\s?(\d+(?:[.,]\d*)?)$/.exec(typed)?.[1]
  if (digits) return [`${digits} % off`, `-${digits}`, `= ${digits}`, `from ${digits}`]
  const words = folded(typed).split(/\s+/)
  const all = [...whoNames(lexicon, words), ...scopeNames(lexicon, words), ...rest, ...howMuch]
  return all.filter(one => isBegun(folded(one), words) && folded(one) !== folded(typed))
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

const some = (list: readonly Named[], words: readonly string[]) =>
  beginningWith(list, words, mostNames).slice(0, mostNames)

function whoNames({ levels, roles, firms, people }: Lexicon, words: readonly string[] = []): string[] {
  return [
    ...roles.map(one => plural(one.name)),
    ...levels.map(one => `${one.name} or above`),
    'guests',
    'everyone',
    ...(words.length ? [...some(firms, words), ...some(people, words)].map(one => one.name) : []),
  ]
}

function scopeNames({ things }: Lexicon, words: readonly string[]): string[] {
  return [
    'the whole shop',
    ...some(things.category, words).map(one => written(things.category, one.id)),
    ...(words.length ? some(things.product, words).map(one => `only ${written(things.product, one.id)}`) : []),
  ]
}
