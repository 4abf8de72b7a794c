/** What becomes of a purchase as notices about its payment come in: twice, late or out of order. */

/** `replaced`: another was begun instead; `expired`: nobody paid within its time. Money that comes all the same counts. */
export const purchaseStates = ['pending', 'paid', 'declined', 'refunded', 'replaced', 'expired'] as const
export type PurchaseState = (typeof purchaseStates)[number]
export const noticeKinds = ['paid', 'declined', 'refunded'] as const
export type NoticeKind = (typeof noticeKinds)[number]

/** What is to be done besides keeping the new state. */
export type PaymentEffect = 'grant' | 'withdraw' | null

/**
 * A later fact wins over an earlier one, whichever arrives first: refunded is
 * final; paid outweighs declined (a card refused at first may go through on
 * the second try); a notice that tells nothing new changes nothing.
 */
export function afterNotice(state: PurchaseState, notice: NoticeKind): { state: PurchaseState; effect: PaymentEffect } {
  if (state === 'refunded' || state === notice) return { state, effect: null }
  if (notice === 'refunded') return { state: 'refunded', effect: state === 'paid' ? 'withdraw' : null }
  if (notice === 'paid') return { state: 'paid', effect: 'grant' }
  return state === 'pending' ? { state: 'declined', effect: null } : { state, effect: null }
}
