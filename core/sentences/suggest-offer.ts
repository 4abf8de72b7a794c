/** What an offer could go on with as it is typed: who, what it is on, how much, from how many, and the rest that can be said. */
import { written } from './lexicon'
import type { Lexicon } from './lexicon'
import { readOffer } from './read-offer'
import { some, suggestLine, whoNames } from './suggest-line'
import type { LineSuggestion } from './suggest-line'

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

/** At most `most` (default 8), what is still missing first. */
export const suggestOffer = (text: string, cursor: number, lexicon: Lexicon, most = 8): LineSuggestion[] =>
  suggestLine(
    text,
    cursor,
    {
      missing: before => missing(before, lexicon),
      all: words => [...whoNames(lexicon, words), ...scopeNames(lexicon, words), ...rest, ...howMuch],
      digits: one => [`${one} % off`, `-${one}`, `= ${one}`, `from ${one}`],
    },
    most,
  )

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

function scopeNames({ things }: Lexicon, words: readonly string[]): string[] {
  return [
    'the whole shop',
    ...some(things.category, words).map(one => written(things.category, one.id)),
    ...(words.length ? some(things.product, words).map(one => `only ${written(things.product, one.id)}`) : []),
  ]
}
