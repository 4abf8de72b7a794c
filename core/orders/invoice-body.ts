/** What stands on an invoice or a credit note of an order, from what is kept of that. Money in minor units. */
import { isTaxed } from '../tax/tax-trail'
import type { AppliedRate, TaxOfRate, TaxTrail } from '../tax/tax-trail'
import type { FrozenOrder, InvoiceBody, InvoiceLine } from './order'
import type { RefundBody } from './refund'
import { outsideTax, vatCategoryOf } from './vat-category'

export type PaperSeller = InvoiceBody['seller']
/** What a paper needs to know of an order. */
export interface PaperOrder {
  number: number
  name: string
  email: string
  frozen: FrozenOrder
}

const withNames = (taxes: readonly TaxOfRate[], applied: readonly AppliedRate[]) =>
  taxes.map(({ rate, amount }) => {
    const { called, percent } = applied.find(one => one.rate === rate)!
    return { rate, called, percent, amount }
  })

const titleOf = ({ titles }: FrozenOrder, product: string) => titles[product] ?? product

/** By what a tax is called and its percentage: what a buyer adds up. */
function summed(lines: readonly InvoiceLine[]): InvoiceBody['taxes'] {
  const all = new Map<string, InvoiceBody['taxes'][number]>()
  for (const { rate, called, percent, amount } of lines.flatMap(one => one.taxes)) {
    const there = all.get(`${called}\n${percent}`)
    if (there) there.amount += amount
    else all.set(`${called}\n${percent}`, { rate, called, percent, amount })
  }
  return [...all.values()]
}

/** What a line is under value added tax; nothing is said of it where the seller's country is not known. */
function withCategory(
  line: InvoiceLine,
  trail: Pick<TaxTrail, 'applied' | 'leftOut'> | null,
  { order, seller }: { order: PaperOrder; seller: PaperSeller },
): InvoiceLine {
  const from = seller.address.country
  if (!from) return line
  const vat = vatCategoryOf(trail ?? { applied: [], leftOut: [] }, { from, to: order.frozen.address.country })
  return vat ? { ...line, vat } : line
}

/** Whoever has no number of any tax office, and takes no tax, stands outside it with all they sell. */
function asOutside(lines: InvoiceLine[], { vatNumber, taxNumber }: PaperSeller): InvoiceLine[] {
  if (vatNumber || taxNumber || !outsideTax(lines.map(one => one.vat))) return lines
  return lines.map(line => ({ ...line, vat: { category: 'O' } }))
}

function bodyOf(
  order: PaperOrder,
  seller: PaperSeller,
  given: { lines: InvoiceLine[]; delivery: InvoiceLine | null },
): InvoiceBody {
  const { frozen } = order
  const all = asOutside(given.delivery ? [...given.lines, given.delivery] : given.lines, seller)
  const lines = all.slice(0, given.lines.length)
  const delivery = given.delivery && all.at(-1)!
  const net = all.reduce((sum, one) => sum + one.net, 0)
  const gross = all.reduce((sum, one) => sum + one.gross, 0)
  return {
    seller,
    buyer: {
      name: order.name,
      email: order.email,
      address: frozen.address,
      ...(frozen.buyer.vatNumber ? { vatNumber: frozen.buyer.vatNumber } : {}),
    },
    orderNumber: order.number,
    currency: frozen.currency,
    lines,
    delivery,
    taxes: summed(all),
    net,
    tax: gross - net,
    gross,
    shown: frozen.shown,
  }
}

/** Of all that was bought, as it was paid. */
export function invoiceBody(order: PaperOrder, seller: PaperSeller): InvoiceBody {
  const { basket, delivery: way, reductions } = order.frozen
  const lines = basket.lines.filter(isTaxed).map(({ product, quantity, net, gross, taxes, tax }, i) => {
    const off = reductions?.lines[i] ?? []
    const line = {
      title: titleOf(order.frozen, product),
      quantity,
      net,
      gross,
      taxes: withNames(taxes, tax.applied),
      ...(off.length ? { off } : {}),
    }
    return withCategory(line, tax, { order, seller })
  })
  const { net, gross, taxes, trail } = basket.delivery
  const sent = way && { title: way.name, quantity: 1, net, gross, taxes: withNames(taxes, trail?.applied ?? []) }
  const delivery = sent && withCategory(sent, trail, { order, seller })
  return {
    ...bodyOf(order, seller, { lines, delivery }),
    ...(reductions?.basket ? { off: reductions.basket } : {}),
  }
}

/** Of what is given back; `of`: the number of the invoice. */
export function creditBody(
  order: PaperOrder,
  { back, of }: { back: RefundBody; of: string | undefined },
  seller: PaperSeller,
): InvoiceBody {
  const { frozen } = order
  const taken = frozen.basket.lines.filter(isTaxed)
  const lines = back.lines.map(({ position, pieces, net, gross, taxes }) => {
    const { product, tax } = taken[position]!
    const line = {
      title: titleOf(frozen, product),
      quantity: pieces,
      net,
      gross,
      taxes: withNames(taxes, tax.applied),
    }
    return withCategory(line, tax, { order, seller })
  })
  const { trail } = frozen.basket.delivery
  const sent = back.delivery && {
    title: frozen.delivery?.name ?? '',
    quantity: 1,
    net: back.delivery.net,
    gross: back.delivery.gross,
    taxes: withNames(back.delivery.taxes, trail?.applied ?? []),
  }
  const delivery = sent && withCategory(sent, trail, { order, seller })
  return { ...bodyOf(order, seller, { lines, delivery }), ...(of === undefined ? {} : { of }) }
}
