import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { refundFor, refundOf } from './refund'
import type { OrderToRefund } from './refund'

const anyLine = fc
  .record({
    taxes: fc.array(fc.nat(99_999), { maxLength: 3 }),
    net: fc.nat(999_999),
    quantity: fc.integer({ min: 1, max: 40 }),
  })
  .map(({ taxes, net, quantity }) => ({
    net,
    taxes: taxes.map((amount, i) => ({ rate: `r${i}`, amount })),
    gross: net + taxes.reduce((all, one) => all + one, 0),
    quantity,
  }))

describe('a refund', () => {
  it('of everything in parts, in whatever steps, comes to exactly what was paid', () => {
    fc.assert(
      fc.property(anyLine, fc.array(fc.integer({ min: 1, max: 9 }), { maxLength: 40 }), (line, steps) => {
        let [before, net, gross] = [0, 0, 0]
        const taxes = line.taxes.map(() => 0)
        for (const step of [...steps, line.quantity]) {
          const pieces = Math.min(step, line.quantity - before)
          if (!pieces) break
          const back = refundOf(line, before, pieces, line.quantity)
          expect(back.gross).toBeGreaterThanOrEqual(0)
          expect(back.net + back.taxes.reduce((all, one) => all + one.amount, 0)).toBe(back.gross)
          before += pieces
          net += back.net
          gross += back.gross
          back.taxes.forEach(({ amount }, i) => (taxes[i]! += amount))
        }
        expect([net, gross, taxes]).toEqual([line.net, line.gross, line.taxes.map(one => one.amount)])
      }),
    )
  })

  const order: OrderToRefund = {
    lines: [
      { position: 0, quantity: 3, refundedPieces: 1, net: 1000, taxes: [{ rate: 'a', amount: 230 }], gross: 1230 },
      { position: 1, quantity: 1, refundedPieces: 0, net: 500, taxes: [], gross: 500 },
    ],
    delivery: { net: 500, taxes: [{ rate: 'a', amount: 115 }], gross: 615 },
    deliveryRefunded: false,
  }
  const ask = (pieces: [number, number][], delivery = false) => refundFor(order, { pieces: new Map(pieces), delivery })

  it('says line by line what goes back, with its tax, and the delivery', () => {
    expect(
      ask(
        [
          [0, 2],
          [1, 0],
        ],
        true,
      ),
    ).toEqual({
      lines: [{ position: 0, pieces: 2, net: 667, taxes: [{ rate: 'a', amount: 153 }], gross: 820 }],
      delivery: order.delivery,
      net: 1167,
      taxes: [
        { rate: 'a', amount: 153 },
        { rate: 'a', amount: 115 },
      ],
      gross: 1435,
    })
  })

  it('is never larger than what was paid, and never of nothing', () => {
    expect([ask([[0, 3]]), ask([[1, -1]]), ask([[7, 1]]), ask([]), ask([[0, 0]])]).toEqual([
      'more-than-paid',
      'more-than-paid',
      'no-such-line',
      'nothing',
      'nothing',
    ])
    expect(refundFor({ ...order, deliveryRefunded: true }, { pieces: new Map(), delivery: true })).toBe(
      'more-than-paid',
    )
  })
})
