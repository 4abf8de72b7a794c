/** `bravik quote PRODUCT` and `bravik quote --basket LINES`: what somebody pays, and how that came about. */
import { CompiledRules } from '../core/gates/compiled'
import { CompiledDecider } from '../core/gates/compiled-decider'
import { moneyWords } from '../core/money'
import type { Rulebook } from '../core/rulebook/rulebook'
import { trailLines } from '../core/shop/trail-words'
import { Pricer } from '../core/shop/pricer'
import type { BasketLine, PriceTrail } from '../core/shop/price-trail'
import type { Address } from '../core/site/place'
import { receiptOf } from '../core/tax/receipt'
import type { Receipt } from '../core/tax/receipt'
import { isTaxed } from '../core/tax/tax-trail'
import type { TaxedBasket } from '../core/tax/tax-trail'
import { readAddress, receiptLines, taxTrailLines } from '../core/tax/tax-words'
import { Taxer } from '../core/tax/taxer'
import type { Site } from '../core/site/site'
import type { Visitor } from '../core/visitor/visitor'
import { FileProblem } from './read-file'

interface World {
  rulebook: Rulebook
  site: Site
  visitors: Record<string, Visitor>
  /** A name among the visitors. Default: a guest. */ as?: string | undefined
  codes?: readonly string[]
  nowMs: number
}

export interface QuoteAsk extends World {
  product: string
  /** Default: 1. */ quantity?: number
}

export interface BasketAsk extends World {
  lines: readonly BasketLine[]
  /** Default: where the visitor is, else at home. */ sentTo?: Address | undefined
  /** Without tax, minor units. Default: 0. */ delivery?: number
}

export interface Quote extends PriceTrail {
  /** May be told the price, and may buy it. */
  told: boolean
  sold: boolean
}

/** Throws `FileProblem` for a product or visitor that is not there, and for a product without a price. */
export function quote({ product, quantity = 1, codes = [], ...world }: QuoteAsk): Quote {
  if (!Number.isInteger(quantity) || quantity < 1) throw new FileProblem('--quantity takes a whole number, 1 or more.')
  const decider = deciderOf(world)
  mustBeThere(decider, product)
  const trail = new Pricer(decider, { codes }).price(product, quantity)
  if (!trail) throw new FileProblem(`“${product}” has no price.`)
  const { price: told, take: sold } = decider.decide({ kind: 'product', id: product })
  return { ...trail, told, sold }
}

function deciderOf({ rulebook, site, visitors, as, nowMs }: World): CompiledDecider {
  const visitor = as === undefined ? { person: null } : visitors[as]
  if (!visitor)
    throw new FileProblem(`There is no visitor “${as}”. There are: ${Object.keys(visitors).join(', ') || 'none'}.`)
  return new CompiledDecider(new CompiledRules(rulebook, site), visitor, nowMs)
}

function mustBeThere({ rules }: CompiledDecider, product: string): void {
  if (!rules.index.has('product', product)) throw new FileProblem(`There is no product “${product}”.`)
}

/** As `--basket` takes it: `fell-dk:2,niddy-noddy`. Throws `FileProblem` for anything else. */
export const readLines = (text: string): BasketLine[] =>
  text.split(',').map(part => {
    const [product = '', quantity = '1', ...rest] = part.trim().split(':')
    const count = Number(quantity)
    if (!product || rest.length || !Number.isInteger(count) || count < 1 || count > 1_000_000)
      throw new FileProblem(
        `--basket takes products with how many of each, such as fell-dk:2,niddy-noddy, not “${part}”.`,
      )
    return { product, quantity: count }
  })

/** As `--to` takes it. Throws `FileProblem`. */
export function readTo(text: string): Address {
  const address = readAddress(text)
  if (!address)
    throw new FileProblem(
      `--to takes a country or region, and perhaps a postcode, such as “ES-CN 35001”, not “${text}”.`,
    )
  return address
}

/** What a basket comes to for somebody, and as they read it. Throws `FileProblem` for a product or visitor that is not there. */
export function quoteBasket({
  lines,
  sentTo,
  delivery = 0,
  codes = [],
  ...world
}: BasketAsk): TaxedBasket & { receipt: Receipt } {
  if (!Number.isInteger(delivery) || delivery < 0)
    throw new FileProblem('--delivery takes whole minor units, 0 or more.')
  const decider = deciderOf(world)
  for (const { product } of lines) mustBeThere(decider, product)
  const taxer = new Taxer(decider.withBasket([...lines]))
  const basket = taxer.basket({ lines, sentTo, delivery, codes })
  return { ...basket, receipt: receiptOf(basket, taxer.showing) }
}

/** The receipt, with how each line came about under it. */
export function basketLines(
  made: ReturnType<typeof quoteBasket>,
  { rulebook, site }: Pick<World, 'rulebook' | 'site'>,
): string[] {
  const money = (minor: number) => moneyWords(minor, site.currency, site.locale)
  const taken = made.lines.filter(isTaxed)
  const refused = made.lines.filter(line => !isTaxed(line))
  const trails = taken.flatMap(line => [
    `${line.product}:`,
    ...trailLines(line, { offers: rulebook.offers ?? [], money })
      .filter(one => one.made)
      .map(
        ({ name, words, amount }) =>
          `  ${[name, words].filter(Boolean).join(', ')}${amount === undefined ? '' : `: ${money(amount)}`}`,
      ),
    ...taxTrailLines(line.tax).map(one => `  ${one}`),
  ])
  return [
    ...receiptLines(made.receipt, { name: id => id, money }),
    ...refused.map(line => `${line.product}: may not be bought, and counts for nothing`),
    ...trails,
  ]
}

/** The trail, a line for each step, then what is paid. */
export function quoteLines(made: Quote, { rulebook, site }: Pick<QuoteAsk, 'rulebook' | 'site'>): string[] {
  const money = (minor: number) => moneyWords(minor, site.currency, site.locale)
  const lines = trailLines(made, { offers: rulebook.offers ?? [], money }).map(
    ({ name, words, amount, made: isMade }) =>
      `${isMade ? '*' : ' '} ${name}${words ? ` (${words})` : ''}${amount === undefined ? '' : `: ${money(amount)}`}`,
  )
  const each = made.quantity === 1 ? '' : ` each, ${money(made.amount)} for ${made.quantity}`
  const rights = [made.told ? '' : 'is not told the price', made.sold ? '' : 'may not buy it'].filter(Boolean)
  return [...lines, `= ${money(made.unit)}${each}${rights.length ? `; ${rights.join(' and ')}` : ''}`]
}
