/** The basket: what lies in it as it is now, with what changed since it was put in. */
import { codesPlace } from '../../core/pages/goods/codes-view'
import { rightBit } from '../../core/gates/verdict'
import type { BasketQuote } from '../../core/orders/basket-quote'
import { basketReductions, quoteBasket, roundedFrom } from '../../core/orders/basket-quote'
import type { Reduction } from '../../core/orders/reductions'
import { givesOf } from '../../core/kinds/product'
import { variantsOf } from '../../core/shop/variants'
import { addressWords } from '../../core/tax/tax-words'
import type { Receipt } from '../../core/tax/receipt'
import { isTaxed } from '../../core/tax/tax-trail'
import { db } from '../db/database'
import { networkOf } from '../forwarded'
import { Problem } from '../problem'
import type { Caller } from '../request/caller'
import { freeOf, piecesOf } from '../services/orders/held-stock'
import { countTyped, withCount, withMore } from '../services/orders/lines'
import type { KeptLine } from '../services/orders/lines'
import { tillName, tillOf } from '../services/orders/tills'
import { countTry } from '../services/secrets/throttle'
import { changeLines, linesOf } from './basket-held'
import { holderOf } from './guest-holder'
import type { OwnAsk, OwnPage } from './own-page'

export interface BasketLineShown {
  product: string
  /** Null of what they may not find: it is named to nobody. */ title: string | null
  href: string | null
  quantity: number
  /** As prices show in the basket, minor units; none of what is not sold to them. */ each?: number
  amount?: number
  /** What one was when they last saw it, where it was something else. */ was?: number
  refused?: true
  /** Why it costs less than its price. */ off?: Reduction[]
  /** The price as typed, with tax, that `each` is rounded from. */ roundedFrom?: number
  /** So many are left, where that is fewer than are asked for. */ only?: number
  note?: string
}

export interface BasketData {
  lines: BasketLineShown[]
  receipt: Receipt
  /** Why something is taken off the basket as a whole. */ off: Reduction | null
  /** Something that lay in it is on the site no more. */ gone: boolean
  /** Nothing keeps it from the till. */ ready: boolean
  sent: boolean
  /** Where it is taxed, as far as that is known. */ at: string
  currency: string
  /** Where a code is given; null where no offer takes one. */ codes: string | null
}

/** Prices of what lies in a basket, where its till says it goes. Things that are no more are left out. */
export async function pricedLines(
  { event, caller }: Pick<OwnAsk, 'event' | 'caller'>,
  lines: readonly KeptLine[],
): Promise<BasketData & { quote: BasketQuote; kept: KeptLine[] }> {
  const { index } = caller.snapshot.rules
  const kept = lines.filter(({ product }) => index.has('product', product))
  const holder = holderOf(event, caller)
  const till = holder && (await tillOf(db(), holder))
  const quote = quoteBasket(caller.decider, {
    lines: kept.map(({ product, quantity }) => ({ product, quantity })),
    sentTo: till?.address,
    delivery: till?.delivery,
  })
  const free = await freeOf(db(), [...piecesOf(kept).keys()], holder ? tillName(holder) : '')
  const { basket, receipt, shown } = quote
  const reasons = reasonsOf(caller, quote, 'basket')
  const shownLines = kept.map((line, i): BasketLineShown => {
    const priced = basket.lines[i]!
    const left = free.get(line.product)
    const path = index.pathOf('product', line.product)
    const opens = caller.decider.bits({ kind: 'product', id: line.product }) & rightBit.open
    const title = titleFor(caller, line.product)
    const base = {
      product: line.product,
      title,
      href: opens && path !== undefined ? path : null,
      quantity: line.quantity,
      ...(left !== undefined && left < line.quantity ? { only: left } : {}),
    }
    if (!isTaxed(priced)) return { ...base, refused: true }
    const side = shown.basket
    const each = priced.each[side]
    const amount = receipt.lines[basket.lines.slice(0, i).filter(isTaxed).length]!.amount
    return {
      ...base,
      each,
      amount,
      ...reasons.lines[i],
      ...(line.seen !== null && line.seen !== each ? { was: line.seen } : {}),
    }
  })
  return {
    lines: shownLines,
    receipt,
    off: reasons.off,
    gone: kept.length < lines.length,
    ready: shownLines.length > 0 && shownLines.every(line => !line.refused && line.only === undefined),
    sent: quote.sent,
    at: addressWords(quote.at),
    currency: index.site.currency ?? 'EUR',
    codes: codesPlace(caller.decider, '/basket', '') ?? null,
    quote,
    kept,
  }
}

/** Why lines cost what they do, as far as there is something to say, and why something is taken off all of them. */
export function reasonsOf({ decider, snapshot }: Caller, quote: BasketQuote, when: 'basket' | 'pay') {
  const { lines, basket } = basketReductions(quote.basket, snapshot.rules)
  const typed = roundedFrom(decider, quote, when)
  const ofLine = (off: Reduction[], i: number): Pick<BasketLineShown, 'off' | 'roundedFrom'> => ({
    ...(off.length ? { off } : {}),
    ...(typed[i] == null ? {} : { roundedFrom: typed[i] }),
  })
  return { lines: lines.map(ofLine), off: basket }
}

/** What goods are called to somebody who may find them; null to others, as if they were not there. */
export function titleFor({ snapshot, decider }: Pick<Caller, 'snapshot' | 'decider'>, product: string): string | null {
  const { index } = snapshot.rules
  const found = index.get('product', product)
  const bits = found ? decider.bits({ kind: 'product', id: product }) : 0
  return bits & (rightBit.find | rightBit.open) ? (found!.title ?? product) : null
}

/** The same, with what each price shows as written beside its line: what they are told of when it changes. */
async function seeLines(ask: Pick<OwnAsk, 'event' | 'caller'>): Promise<void> {
  const { lines } = await pricedLines(ask, await linesOf(ask))
  const seen = new Map(lines.map(one => [one.product, one.each ?? null]))
  await changeLines(ask, all =>
    all.flatMap(one => (seen.has(one.product) ? [{ ...one, seen: seen.get(one.product) ?? null }] : [])),
  )
}

/** Throws why somebody cannot put so many of a product into their basket. */
function refuseUnsold({ snapshot, decider }: Caller, product: string, quantity: number): void {
  const { index } = snapshot.rules
  const found = index.get('product', product)
  const bits = found ? decider.bits({ kind: 'product', id: product }) : 0
  // Of what may not be found nothing is said: as if it were not there.
  if (!found || !(bits & rightBit.find || bits & rightBit.open)) throw new Problem('not-found')
  if (variantsOf(product, index).length) throw new Problem('choose-variant')
  if (!(bits & rightBit.take)) throw new Problem('not-sold-to-you')
  if (givesOf(found, index) && quantity > 1) throw new Problem('one-at-a-time')
}

async function put(ask: OwnAsk, product: string, quantity: number): Promise<void> {
  const { event, caller } = ask
  await changeLines(ask, lines => {
    const all = withMore(lines, product, quantity)
    refuseUnsold(caller, product, all.find(one => one.product === product)!.quantity)
    return all
  })
  const holder = holderOf(event, caller)
  const wanted = (await linesOf(ask)).find(one => one.product === product)?.quantity ?? quantity
  const left = (await freeOf(db(), [product], holder ? tillName(holder) : '')).get(product)
  if (left !== undefined && wanted > left && left === 0) {
    await changeLines(ask, lines => withCount(lines, product, 0))
    throw new Problem('sold-out', {
      what: titleFor(caller, product) ?? '…',
      free: 0,
    })
  }
}

/** Fields are `add` with `quantity`; `drop`; `count:PRODUCT` for each; `go` to go on to the till. */
export const basketPage: OwnPage<BasketData> = {
  path: '/basket',
  script: true,
  async load(ask) {
    const { quote: _, kept: __, ...data } = await pricedLines(ask, await linesOf(ask))
    return data
  },
  async asks(ask, form) {
    const lines = await linesOf(ask)
    const added = form.add === undefined ? lines : [...lines, { product: form.add, quantity: 1, seen: null }]
    for (const { product } of added) ask.caller.decider.bits({ kind: 'product', id: product })
    await pricedLines(ask, added)
  },
  async act(ask, form) {
    const windowMs = 10 * 60_000
    await countTry(
      db(),
      [{ what: 'basket', of: ask.caller.signedIn?.personId ?? networkOf(ask.event), most: 600, windowMs }],
      'changes',
    )
    if (form.add !== undefined) await put(ask, form.add, countTyped(form.quantity ?? '1'))
    else if (form.drop !== undefined) await changeLines(ask, lines => withCount(lines, form.drop!, 0))
    else
      await changeLines(ask, lines =>
        Object.entries(form).reduce((all, [name, typed]) => {
          if (!name.startsWith('count:')) return all
          const product = name.slice('count:'.length)
          const count = countTyped(typed, 0)
          if (count > 1 && all.some(one => one.product === product)) refuseUnsold(ask.caller, product, count)
          return withCount(all, product, count)
        }, lines),
      )
    await seeLines(ask)
    return { to: form.go === undefined ? '/basket' : '/till' }
  },
}
