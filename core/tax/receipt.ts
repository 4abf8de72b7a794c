/** What a basket comes to, as somebody reads it: lines and delivery with or without tax, and the taxes each or in one. */
import type { Shown, Showing } from './tax-settings'
import { isTaxed, sum } from './tax-trail'
import type { AppliedRate, TaxedBasket, TaxedLine } from './tax-trail'

export interface ReceiptLine {
  product: string
  quantity: number
  /** Minor units, as it shows: of one piece, and of all of them. */ each: number
  amount: number
}

export interface ReceiptTax {
  /** Of one rate in one form; left out where they are summed. */ rate?: string
  called: string
  percent?: string
  amount: number
}

export interface Receipt {
  showing: Showing
  lines: ReceiptLine[]
  /** Taken off the basket, as it shows; 0 where nothing is. */ discount: number
  delivery: number
  /** Within what shows, or on top of it, as it shows. */ taxes: ReceiptTax[]
  net: number
  tax: number
  /** What is paid. */ gross: number
}

/** `when`: which of the ways of showing. Lines that are refused are left out. */
export function receiptOf(basket: TaxedBasket, shown: Shown, when: 'basket' | 'pay' = 'pay'): Receipt {
  const showing = shown[when]
  const side = showing === 'withTax' ? 'gross' : 'net'
  const taken = basket.lines.filter(isTaxed)
  const lines = taken.map(({ product, quantity, each, before }) => ({
    product,
    quantity,
    each: each[showing],
    amount: before[showing],
  }))
  // A line that nothing was taken off shows what is paid for it, which may differ by rounding from an amount that is shown.
  lines.forEach((line, i) => {
    if (!taken[i]!.discount) line.amount = taken[i]![side]
  })
  return {
    showing,
    lines,
    discount: sum(lines.map(line => line.amount)) - sum(taken.map(line => line[side])),
    delivery: basket.delivery[side],
    taxes: taxesOf(basket, shown.taxLines),
    net: basket.net,
    tax: basket.tax,
    gross: basket.gross,
  }
}

function taxesOf({ lines, delivery, tax }: TaxedBasket, how: Shown['taxLines']): ReceiptTax[] {
  const each = new Map<string, Required<ReceiptTax>>()
  const add = (applied: readonly AppliedRate[], taxes: TaxedLine['taxes']) => {
    for (const { rate, amount } of taxes) {
      const { called, percent } = applied.find(one => one.rate === rate)!
      const key = `${called}\n${percent}`
      const there = each.get(key)
      if (there) there.amount += amount
      else each.set(key, { rate, called, percent, amount })
    }
  }
  for (const line of lines) if (isTaxed(line)) add(line.tax.applied, line.taxes)
  add(delivery.trail?.applied ?? [], delivery.taxes)
  const all = [...each.values()]
  if (how === 'each' || all.length <= 1) return all
  const called = new Set(all.map(one => one.called))
  return [{ called: called.size === 1 ? all[0]!.called : '', amount: tax }]
}
