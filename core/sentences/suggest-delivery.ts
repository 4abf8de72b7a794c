/** What a way of delivery could go on with as it is typed: where it goes, what it costs, from what it is free, for whom. */
import type { Lexicon } from './lexicon'
import { readDelivery } from './read-delivery'
import { suggestLine, whoNames } from './suggest-line'
import type { LineSuggestion } from './suggest-line'
import { countries } from './words'

const begun = ['by post', 'by carrier', 'collected']
const costs = ['costs 5', 'up to 2 kg 5', 'free']

/** At most `most` (default 8), what is still missing first; `usual`: countries that are offered first, by their codes. */
export function suggestDelivery(
  text: string,
  cursor: number,
  lexicon: Lexicon,
  { usual = [], most = 8 }: { usual?: readonly string[]; most?: number } = {},
): LineSuggestion[] {
  const places = (codes: readonly string[] | null) =>
    countries().flatMap(({ id, name }) => (!codes || codes.includes(id) ? [`to ${name}`] : []))
  const whom = (words: readonly string[] = []) => whoNames(lexicon, words).map(one => `for ${one}`)
  return suggestLine(
    text,
    cursor,
    {
      missing(before) {
        if (!before.trim()) return begun
        const read = readDelivery(before, lexicon)
        const isCosted = read.ok || /\d|\bfree\b|nothing/.test(before)
        const isSent = /\b(to|anywhere)\b/.test(before)
        return [
          ...(isSent ? [] : places(usual).slice(0, 3)),
          ...(isCosted ? ['up to 10 kg 12', 'heavier 20'].filter(() => /\bup to\b/.test(before)) : costs),
          ...(isCosted && !/\bfree\b/.test(before) ? ['free from 90'] : []),
          ...(/\bfor\b/.test(before) ? [] : whom().slice(0, 3)),
        ]
      },
      all: words => [...costs, 'free from 90', 'heavier 20', 'anywhere', 'saying ""', ...whom(words), ...places(null)],
      digits: one => [`costs ${one}`, `up to ${one} kg`, `free from ${one}`],
    },
    most,
  )
}
