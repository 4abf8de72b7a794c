/** Why one visitor pays more or less than another for the same basket: by price or by tax, line by line, with what says so. */
import type { BasketQuote } from '../orders/basket-quote'
import { offersOf } from '../shop/compiled-offers'
import type { CompiledDecider } from '../gates/compiled-decider'
import { addressWords } from '../tax/tax-words'
import { isTaxed } from '../tax/tax-trail'
import type { BasketLineTaxed, TaxedLine, TaxTrail } from '../tax/tax-trail'
import { Taxer } from '../tax/taxer'

export interface ReceiptSource {
  kind: 'offer' | 'exception' | 'goods' | 'delivery' | 'gate' | 'place'
  /** Of a place the address in words, as `addressWords` says it. */ id: string
}

export interface ReceiptDifference {
  about: 'price' | 'tax' | 'delivery' | 'deliveryTax' | 'refused'
  /** What the first pays more than the second for it; below nothing where less. Minor units, with tax. */ amount: number
  /** What one of them has and the other has not, that makes it. */ sources: ReceiptSource[]
  /** Lines it is of, by place. */ lines: number[]
}

interface Side {
  decider: CompiledDecider
  quote: BasketQuote
}

/** They add up to what the first pays more than the second. */
export function receiptDifferences(one: Side, other: Side): ReceiptDifference[] {
  const found = new Map<string, ReceiptDifference>()
  const add = (about: ReceiptDifference['about'], amount: number, sources: ReceiptSource[], line?: number) => {
    if (!amount) return
    const key = `${about} ${sources.map(({ kind, id }) => `${kind} ${id}`).join()}`
    const there = found.get(key) ?? { about, amount: 0, sources, lines: [] }
    there.amount += amount
    if (line !== undefined) there.lines.push(line)
    found.set(key, there)
  }
  one.quote.basket.lines.forEach((line, i) => {
    const than = other.quote.basket.lines[i]!
    if (!isTaxed(line) || !isTaxed(than)) {
      const source = { kind: 'gate' as const, id: line.product }
      return add('refused', grossOf(line) - grossOf(than), [source], i)
    }
    // What the first's price would come to under the second's taxes: the rest is tax.
    const between = line.amount - line.discount === than.amount - than.discount ? than.gross : grossUnder(other, line)
    add('price', between - than.gross, onlyIn(line.offers, than.offers, 'offer'), i)
    add('tax', line.gross - between, [...taxSources(line.tax, than.tax), ...elsewhere(one, other)], i)
  })
  const [a, b] = [one.quote.basket.delivery, other.quote.basket.delivery]
  const [wayA, wayB] = [one.quote.chosen?.id, other.quote.chosen?.id]
  const ways =
    wayA === wayB ? [] : [wayA, wayB].flatMap(id => (id === undefined ? [] : [{ kind: 'delivery' as const, id }]))
  add('delivery', a.net - b.net, ways)
  add('deliveryTax', a.gross - a.net - (b.gross - b.net), [...ratesSources(a.trail, b.trail), ...elsewhere(one, other)])
  return [...found.values()]
}

/** They are taxed at different places. */
function elsewhere(one: Side, other: Side): ReceiptSource[] {
  const [here, there] = [addressWords(one.quote.at), addressWords(other.quote.at)]
  return here === there ? [] : [{ kind: 'place', id: here }]
}

const grossOf = (line: BasketLineTaxed) => (isTaxed(line) ? line.gross : 0)

function grossUnder({ decider, quote }: Side, { product, amount, discount }: TaxedLine): number {
  const lines = quote.basket.lines.map(({ product: id, quantity }) => ({ product: id, quantity }))
  const priced = offersOf(decider.rules).product(product)
  return priced ? new Taxer(decider.withBasket(lines)).both(priced, amount - discount, quote.at).withTax : 0
}

const onlyIn = (one: readonly string[], other: readonly string[], kind: ReceiptSource['kind']): ReceiptSource[] =>
  [...new Set([...one.filter(id => !other.includes(id)), ...other.filter(id => !one.includes(id))])].map(id => ({
    kind,
    id,
  }))

type Rates = Pick<TaxTrail, 'applied' | 'leftOut'> | null
const exceptionsIn = (trail: Rates): string[] =>
  trail ? [...trail.applied, ...trail.leftOut].flatMap(({ exception }) => exception ?? []) : []
const ratesSources = (one: Rates, other: Rates) => onlyIn(exceptionsIn(one), exceptionsIn(other), 'exception')
const entriesIn = ({ goodsTaxed, category }: TaxTrail) => [goodsTaxed, category].flatMap(({ entry }) => entry ?? [])

const taxSources = (one: TaxTrail, other: TaxTrail): ReceiptSource[] => [
  ...ratesSources(one, other),
  ...onlyIn(entriesIn(one), entriesIn(other), 'goods'),
]
