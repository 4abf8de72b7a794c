import { deliveryBoard } from '~~/core/audit/delivery-board'
import { answersOf } from '~/loft/core/worker/answering'
import { sideAsked, worldNow } from '~/loft/core/worker/world'
import type { DeliveriesQuestions } from './questions'

export const deliveriesAnswers = answersOf<DeliveriesQuestions>('deliveries', {
  board({ which, ...asked }) {
    const { tiers, nowMs } = worldNow()
    return deliveryBoard(sideAsked(which).rules, tiers, { ...asked, nowMs })
  },
  begin({ which, products, to }) {
    const { tiers, nowMs } = worldNow()
    const { rules } = sideAsked(which)
    return products.filter(product => {
      const [told] = deliveryBoard(rules, tiers.slice(0, 1), { lines: [{ product, quantity: 1 }], to, nowMs })
      return told?.parcel.sent
    })
  },
})
