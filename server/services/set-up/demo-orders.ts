/** The demo's orders: worked out by its rules as any other, and dated back. */
import { eq } from 'drizzle-orm'
import { CompiledRules } from '../../../core/gates/compiled'
import { CompiledDecider } from '../../../core/gates/compiled-decider'
import { categoriesAround } from '../../../core/kinds/product'
import { quoteBasket, basketReductions } from '../../../core/orders/basket-quote'
import { isTaxed } from '../../../core/tax/tax-trail'
import { wexlowOrders } from '../../../demo/wexlow/orders'
import type { DemoOrder } from '../../../demo/wexlow/orders'
import { wexlowSettings } from '../../../demo/wexlow/people-rules'
import { clockMs } from '../../clock'
import type { Tx } from '../../db/database'
import { invoice, orderLine, paymentNotice, shopOrder } from '../../db/schema'
import { issueInvoice } from '../papers/invoices'
import { sellerSaid } from '../../../core/orders/seller'
import { sellerNow } from '../orders/world'
import type { Seller } from '../papers/invoices'
import { newId } from '../secrets/tokens'
import { visitorOf } from '../standing/visitor-of'
import { contentsAt, readState } from '../versions/versions'

const dayMs = 86_400_000

export async function insertOrders(tx: Tx): Promise<void> {
  const { book, index } = await contentsAt(tx, await readState(tx), 1)
  const rules = new CompiledRules(book, index)
  const { senderName = '', senderAddress = '' } = wexlowSettings.mail ?? {}
  const said = sellerSaid.parse(wexlowSettings.seller ?? {})
  const seller: Seller = {
    ...sellerNow(said, book.tax!.settings!.origin),
    name: said.name || senderName,
    email: senderAddress,
    timezone: index.site.timezone,
  }
  for (const one of wexlowOrders) await insertOrder(tx, rules, seller, one)
}

async function insertOrder(tx: Tx, rules: CompiledRules, seller: Seller, one: DemoOrder): Promise<void> {
  const placedAt = new Date(clockMs() - one.daysAgo * dayMs)
  const visitor = one.person === undefined ? { person: null } : await visitorOf(tx, one.person)
  const decider = new CompiledDecider(rules, visitor ?? { person: null }, placedAt.getTime())
  const asked = one.lines.map(([product, quantity]) => ({ product, quantity }))
  const quote = quoteBasket(decider, { lines: asked, sentTo: one.address, delivery: one.delivery, when: 'pay' })
  const lines = quote.basket.lines.filter(isTaxed)
  if (lines.length < asked.length || !quote.chosen) throw new Error(`The demo's order of ${one.name} cannot be bought.`)
  const { net, tax, gross } = quote.basket
  const id = newId('order', 20)
  const { index } = rules
  const [order] = await tx
    .insert(shopOrder)
    .values({
      id,
      reference: newId('pay', 16),
      request: newId('till', 20),
      personId: one.person ?? null,
      email: one.email,
      name: one.name,
      country: one.address.country,
      state: one.state,
      edition: 1,
      net,
      tax,
      gross,
      frozen: {
        edition: 1,
        currency: index.site.currency,
        titles: Object.fromEntries(
          asked.map(({ product }) => [product, index.get('product', product)?.title ?? product]),
        ),
        basket: quote.basket,
        shown: quote.shown,
        address: one.address,
        delivery: { id: quote.chosen.id, name: quote.chosen.name },
        codes: [],
        note: one.note ?? '',
        gift: null,
        reductions: basketReductions(quote.basket, rules),
        buyer: { levels: [...decider.asker.levels.keys()], roles: [...decider.asker.roles] },
      },
      placedAt,
      expiresAt: new Date(placedAt.getTime() + dayMs),
      paidAt: one.state === 'placed' ? null : placedAt,
      sentAt: one.state === 'sent' ? new Date(placedAt.getTime() + 2 * dayMs) : null,
    })
    .returning()
  await tx.insert(orderLine).values(
    lines.map((line, position) => ({
      orderId: id,
      position,
      product: line.product,
      quantity: line.quantity,
      net: line.net,
      tax: line.gross - line.net,
      gross: line.gross,
      categories: categoriesAround(index.get('product', line.product)!, index),
    })),
  )
  if (one.state === 'placed') return
  await tx.insert(paymentNotice).values({
    id: newId('notice', 16),
    reference: order!.reference,
    kind: 'paid',
    amount: gross,
    became: 'settled',
    receivedAt: placedAt,
  })
  const made = await issueInvoice(tx, order!, seller)
  await tx.update(invoice).set({ issuedAt: placedAt }).where(eq(invoice.number, made.number))
}
