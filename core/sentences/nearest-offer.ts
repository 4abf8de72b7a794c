/** The nearest line that can be read to one that cannot: a word mistyped, called otherwise here, or left out. */
import { distance } from 'fastest-levenshtein'
import { plural } from './lexicon'
import type { Lexicon } from './lexicon'
import { readOffer } from './read-offer'

/** Readings that are tried, and characters of a line it is done for. */
const mostTries = 120
const fewestTries = 8
const longest = 400
const most = 2000
/** What people call those who buy for less, whatever a site calls them. */
const everyday = new Set(
  'wholesale wholesaler wholesalers trade reseller resellers b2b dealer dealers business retailer retailers customers customer members member'.split(
    ' ',
  ),
)
const keywords = [
  'off',
  'from',
  'basket',
  'orders',
  'with code',
  'everyone',
  'guests',
  'buy',
  'get',
  'free',
  'the whole shop',
  'counted over',
]

function nearWords(word: string, { levels, roles, things }: Lexicon): string[] {
  const names = [
    ...keywords,
    ...roles.map(one => plural(one.name)),
    ...levels.map(one => one.name),
    ...things.category.slice(0, most).map(one => one.name),
    ...things.product.slice(0, most).map(one => one.name.split(/[\s,]/)[0]!),
  ]
  const typed = word.toLowerCase()
  const near = [...new Set(names)]
    .map(name => ({ name, far: distance(typed, name.toLowerCase()) }))
    .filter(
      ({ name, far }) =>
        typed.length >= 4 &&
        far > 0 &&
        (far <= (typed.length > 6 ? 2 : 1) || (far === 2 && letters(name) === letters(typed))),
    )
    .sort((a, b) => a.far - b.far)
    .map(({ name }) => name)
  const who = everyday.has(typed) ? [...roles.map(one => plural(one.name)), ...levels.map(one => one.name)] : []
  return [...near, ...who].slice(0, 6)
}

/** Two that stand the wrong way round are one mistake. */
const letters = (word: string) => [...word.toLowerCase()].sort().join('')

/** Null where nothing near can be read. */
export function nearestOffer(text: string, lexicon: Lexicon, today?: string): string | null {
  if (text.length > longest) return null
  // Over very many goods a reading takes longer: it is done while somebody types.
  const many = lexicon.things.product.length + lexicon.things.category.length + lexicon.people.length
  const allowed = Math.max(fewestTries, Math.floor(mostTries / Math.max(1, many / most)))
  let tries = 0
  const mend = (line: string, depth: number): string | null => {
    if (tries++ >= allowed) return null
    const reading = readOffer(line, lexicon, today)
    if (reading.ok) return line
    const { at, length } = reading.error
    if (depth === 0 || length === 0) return null
    const word = line.slice(at, at + length)
    for (const other of [...nearWords(word, lexicon), '']) {
      const next = `${line.slice(0, at)}${other}${line.slice(at + length)}`.replaceAll(/\s+/g, ' ').trim()
      const found = mend(next, depth - 1)
      if (found) return found
    }
    return null
  }
  const found = mend(text.replaceAll(/\s+/g, ' ').trim(), 3)
  return found && found !== text.trim() ? found : null
}
