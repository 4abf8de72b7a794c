/**
 * An order that was given up and is paid all the same: its codes, its goods and its price are asked for once more, as when
 * it was placed. Throws where anything of it is not to be had as it was agreed; nothing of it stays then.
 */
import { CompiledDecider } from '../../../core/gates/compiled-decider'
import { quoteBasket } from '../../../core/orders/basket-quote'
import { isTaxed } from '../../../core/tax/tax-trail'
import type { Visitor } from '../../../core/visitor/visitor'
import { clockMs } from '../../clock'
import type { Tx } from '../../db/database'
import { Problem } from '../../problem'
import { spendCode } from '../shop/given-codes'
import { visitorOf } from '../standing/visitor-of'
import { keepStock } from './held-stock'
import type { OrderRow } from '../papers/order-row'
import { spentFor } from './spent-codes'
import type { OrderWorld } from './world'

export async function takeAgain(tx: Tx, { live }: OrderWorld, order: OrderRow): Promise<void> {
  const { frozen } = order
  const lines = frozen.basket.lines.filter(isTaxed)
  // A guest is known by nothing any more; what only they were allowed is asked anew, and refused.
  const holder = order.personId === null ? null : { person: order.personId }
  for (const { offer, code } of frozen.typed ?? [])
    await spendCode(tx, live, { typed: code, holder, offer, request: spentFor(order.id, offer) })
  const visitor = holder ? await visitorOf(tx, holder.person) : null
  if (quotedNow(order, live.rules, visitor) !== order.gross) throw new Problem('basket-changed')
  await keepStock(tx, lines, { till: `order:${order.id}`, order: order.id, title: id => frozen.titles[id] ?? id })
}

/** What the same comes to now, minor units; null where something of it is not sold to them, or not sent there. */
function quotedNow({ frozen }: OrderRow, rules: OrderWorld['live']['rules'], person: Visitor | null): number | null {
  const asked = frozen.basket.lines.map(({ product, quantity }) => ({ product, quantity }))
  const nowMs = clockMs()
  const visitor: Visitor = {
    ...(person ?? { person: null }),
    basket: asked,
    codes: (frozen.typed ?? []).map(({ offer, word }) => ({
      offer,
      code: word,
      until: new Date(nowMs + 60_000).toISOString(),
    })),
  }
  const quote = quoteBasket(new CompiledDecider(rules, visitor, nowMs), {
    lines: asked,
    sentTo: frozen.address,
    delivery: frozen.delivery?.id ?? null,
    when: 'pay',
  })
  const { basket, sent, chosen } = quote
  return basket.lines.every(isTaxed) && (!sent || chosen) ? basket.gross : null
}
