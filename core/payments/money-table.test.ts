import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { noticeKinds, orderSteps, purchaseStep } from './money-table'
import type { PurchaseEvent, PurchaseState } from './money-table'

const eventOf = { paid: 'paid', declined: 'declined', refunded: 'back' } as const
const after = (state: PurchaseState, event: PurchaseEvent) => purchaseStep(state, event) ?? { to: state, does: [] }

describe('what becomes of buying a level', () => {
  const settle = (notices: readonly (typeof noticeKinds)[number][]) =>
    notices.reduce<PurchaseState>((state, notice) => after(state, eventOf[notice]).to, 'pending')

  it('is the same in whatever order and however often notices come', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...noticeKinds), { minLength: 1, maxLength: 6 }),
        fc.infiniteStream(fc.nat()),
        (notices, random) => {
          const shuffled = [...notices, ...notices]
            .map(one => ({ one, by: random.next().value as number }))
            .sort((a, b) => a.by - b.by)
            .map(({ one }) => one)
          expect(settle(shuffled)).toBe(settle(notices))
        },
      ),
    )
  })

  it('is given once and taken away at most once', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...noticeKinds), { maxLength: 8 }), notices => {
        let state: PurchaseState = 'pending'
        const effects: string[] = []
        for (const notice of notices) {
          const next = after(state, eventOf[notice])
          state = next.to
          effects.push(...next.does)
        }
        expect(['', 'grant', 'grant,withdraw']).toContain(effects.join())
        expect(state === 'paid').toBe(effects.join() === 'grant')
      }),
    )
  })
})

describe('what becomes of an order', () => {
  it('keeps money nobody asked for and tells of money that went out unasked, however it stands', () => {
    for (const steps of Object.values(orderSteps)) {
      expect(steps.paidBesides?.does).toEqual(['keepMoney'])
      expect(steps.backUnasked?.does).toEqual(['tellStaff'])
    }
  })

  it('gives money back only of what is paid, and nothing of what is given back wholly', () => {
    expect(Object.entries(orderSteps).flatMap(([state, { backAsked }]) => (backAsked ? [state] : []))).toEqual([
      'paid',
      'sent',
    ])
  })
})
