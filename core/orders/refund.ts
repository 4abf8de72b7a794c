/**
 * What is given back for so many pieces of so many lines, and of the delivery: each figure by how much of it was given
 * back before and is after, so that whatever is given back in parts comes to exactly what was paid. Minor units.
 */
import { sum } from '../tax/tax-trail'
import type { TaxOfRate } from '../tax/tax-trail'

export interface Refundable {
  net: number
  taxes: readonly TaxOfRate[]
  gross: number
}

export interface RefundedLine {
  position: number
  pieces: number
  net: number
  taxes: TaxOfRate[]
  gross: number
}

export interface RefundBody {
  lines: RefundedLine[]
  /** None where nothing is given back of it. */ delivery: Omit<RefundedLine, 'position' | 'pieces'> | null
  /** What was sent back is in store again. */ restock?: boolean
}

export interface RefundAsk {
  /** Pieces of each line that are given back now, by position. */ pieces: ReadonlyMap<number, number>
  /** The whole delivery. */ delivery: boolean
}

/** Of a figure for all pieces what falls on the first so many: half up. */
const upTo = (figure: number, pieces: number, all: number): number =>
  Number((2n * BigInt(figure) * BigInt(pieces) + BigInt(all)) / (2n * BigInt(all)))

/** What `pieces` more come to after `before` of `all` were given back. */
export function refundOf({ taxes, gross }: Refundable, before: number, pieces: number, all: number): Refundable {
  const part = (figure: number) => upTo(figure, before + pieces, all) - upTo(figure, before, all)
  const back = taxes.map(({ rate, amount }) => ({ rate, amount: part(amount) }))
  const gross_ = part(gross)
  return { net: gross_ - sum(back.map(one => one.amount)), taxes: back, gross: gross_ }
}

export interface OrderToRefund {
  lines: readonly (Refundable & { position: number; quantity: number; refundedPieces: number })[]
  delivery: Refundable
  deliveryRefunded: boolean
}

/** Why it cannot be: a line that is not there, more pieces than are left, delivery given back before, or nothing at all. */
export type NoRefund = 'no-such-line' | 'more-than-paid' | 'nothing'

export function refundFor(order: OrderToRefund, { pieces, delivery }: RefundAsk): (RefundBody & Refundable) | NoRefund {
  const lines: RefundedLine[] = []
  for (const [position, count] of pieces) {
    if (count === 0) continue
    const line = order.lines.find(one => one.position === position)
    if (!line) return 'no-such-line'
    if (count < 0 || line.refundedPieces + count > line.quantity) return 'more-than-paid'
    const { net, taxes, gross } = refundOf(line, line.refundedPieces, count, line.quantity)
    lines.push({ position, pieces: count, net, taxes: [...taxes], gross })
  }
  if (delivery && order.deliveryRefunded) return 'more-than-paid'
  const back = delivery && order.delivery.gross > 0 ? order.delivery : null
  if (!lines.length && !back) return 'nothing'
  const parts: Refundable[] = [...lines, ...(back ? [back] : [])]
  return {
    lines,
    delivery: back && { net: back.net, taxes: [...back.taxes], gross: back.gross },
    net: sum(parts.map(one => one.net)),
    taxes: parts.flatMap(one => one.taxes),
    gross: sum(parts.map(one => one.gross)),
  }
}
