/** `bravik quote PRODUCT`: what somebody pays for a product, and how that came about. */
import { CompiledRules } from '../core/gates/compiled'
import { CompiledDecider } from '../core/gates/compiled-decider'
import { moneyWords } from '../core/money'
import type { Rulebook } from '../core/rulebook/rulebook'
import { trailLines } from '../core/shop/trail-words'
import { Pricer } from '../core/shop/pricer'
import type { PriceTrail } from '../core/shop/price-trail'
import type { Site } from '../core/site/site'
import type { Visitor } from '../core/visitor/visitor'
import { FileProblem } from './read-file'

export interface QuoteAsk {
  rulebook: Rulebook
  site: Site
  visitors: Record<string, Visitor>
  product: string
  /** A name among the visitors. Default: a guest. */ as?: string | undefined
  /** Default: 1. */ quantity?: number
  codes?: readonly string[]
  nowMs: number
}

export interface Quote extends PriceTrail {
  /** May be told the price, and may buy it. */
  told: boolean
  sold: boolean
}

/** Throws `FileProblem` for a product or visitor that is not there, and for a product without a price. */
export function quote({ rulebook, site, visitors, product, as, quantity = 1, codes = [], nowMs }: QuoteAsk): Quote {
  const visitor = as === undefined ? { person: null } : visitors[as]
  if (!visitor)
    throw new FileProblem(`There is no visitor “${as}”. There are: ${Object.keys(visitors).join(', ') || 'none'}.`)
  if (!Number.isInteger(quantity) || quantity < 1) throw new FileProblem('--quantity takes a whole number, 1 or more.')
  const rules = new CompiledRules(rulebook, site)
  if (!rules.index.has('product', product)) throw new FileProblem(`There is no product “${product}”.`)
  const decider = new CompiledDecider(rules, visitor, nowMs)
  const trail = new Pricer(decider, { codes }).price(product, quantity)
  if (!trail) throw new FileProblem(`“${product}” has no price.`)
  const { price: told, take: sold } = decider.decide({ kind: 'product', id: product })
  return { ...trail, told, sold }
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
