/**
 * What may follow what where money moves: of each subject its states, what can happen to it, and what each of these does.
 * What is not said here does not happen. Drawn in docs/money.md, and walked at random by tests/server/money-walk.test.ts.
 */

/** What the payment provider tells. */
export const noticeKinds = ['paid', 'declined', 'refunded'] as const
export type NoticeKind = (typeof noticeKinds)[number]

/**
 * What became of a notice. `settled`: it is the payment that was asked for; `besides`: money nobody asked for, kept until
 * it is given back; `back`: money that was asked back has gone out; `unasked`: it went out and nobody had asked; `nothing`:
 * it tells nothing new.
 */
export type NoticeBecame = 'settled' | 'besides' | 'declined' | 'back' | 'unasked' | 'nothing'

/** What money is given back for: goods of an order, a level, or what was paid besides. */
export type MoneyBackOf = 'goods' | 'level' | 'besides'

/** `to`: what it is then. `does`: in this order, in one transaction. */
export interface Step<S extends string, D extends string> {
  to: S
  does: readonly D[]
}
export type Steps<S extends string, E extends string, D extends string> = Readonly<
  Record<S, Readonly<Partial<Record<E, Step<S, D>>>>>
>

/** `givenUp`: nobody paid in time, or the buyer went back; `sent` as soon as it is paid where there is nothing to send. */
export const orderStates = ['placed', 'paid', 'sent', 'refunded', 'givenUp'] as const
export type OrderState = (typeof orderStates)[number]

export const orderEvents = {
  paid: 'the provider tells of the sum that was asked, for the first time',
  paidGone: 'the same, of an order that was given up and cannot be had any more as it was agreed',
  paidBesides: 'it tells of another sum, or of the same once more',
  declined: 'it tells that a payment failed',
  nothingToSend: 'it is paid, and nothing of it is sent',
  sent: 'staff say that it is sent',
  notSent: 'staff take that back',
  backAsked: 'staff give money back, for pieces or for all of it',
  backInPart: 'the provider tells that this has gone out, and something is left that is paid',
  backWhole: 'the same, and nothing is left',
  backUnasked: 'the provider tells of money that went out, of another sum than asked, or that nobody asked for',
  backToBasket: 'the buyer goes back',
  unpaid: 'its time is over, or staff give it up',
} as const
export type OrderEvent = keyof typeof orderEvents

export const orderEffects = {
  takeAgain: 'keeps code and stock once more and asks the price again: all of it, or none',
  emptyBasket: 'takes out of the basket what was laid into it again',
  takeStock: 'takes what is sold from the store',
  issueInvoice: 'issues the invoice',
  give: 'gives what buying gives, or mails the gift',
  mailPaid: 'mails the buyer',
  mailSent: 'mails the buyer that it is on its way',
  keepMoney: 'keeps the money as a matter for staff, who are offered to give it back',
  tellStaff: 'tells staff',
  askBack: 'asks the provider, never for more than came in',
  takeBack: 'takes back what those lines gave',
  putBack: 'puts into store what came back, where staff said so',
  issueCredit: 'issues the credit note',
  mailBack: 'mails the buyer',
  freeStock: 'frees the stock that was kept',
  freeCodes: 'makes its codes good again',
  fillBasket: 'lays what was in it into the basket again',
} as const
export type OrderEffect = keyof typeof orderEffects

const order = (to: OrderState, ...does: OrderEffect[]): Step<OrderState, OrderEffect> => ({ to, does })
const always = (state: OrderState) => ({
  paidBesides: order(state, 'keepMoney'),
  declined: order(state),
  backUnasked: order(state, 'tellStaff'),
})
const refundable = (state: OrderState) => ({
  ...always(state),
  backAsked: order(state, 'askBack'),
  backInPart: order(state, 'takeBack', 'putBack', 'issueCredit', 'mailBack'),
  backWhole: order('refunded', 'takeBack', 'putBack', 'issueCredit', 'mailBack'),
})

export const orderSteps: Steps<OrderState, OrderEvent, OrderEffect> = {
  placed: {
    ...always('placed'),
    paid: order('paid', 'takeStock', 'issueInvoice', 'give', 'mailPaid'),
    backToBasket: order('givenUp', 'freeStock', 'freeCodes', 'fillBasket'),
    unpaid: order('givenUp', 'freeStock', 'freeCodes'),
  },
  paid: {
    ...refundable('paid'),
    nothingToSend: order('sent'),
    sent: order('sent', 'mailSent'),
  },
  sent: {
    ...refundable('sent'),
    notSent: order('paid'),
  },
  refunded: always('refunded'),
  givenUp: {
    ...always('givenUp'),
    paid: order('paid', 'takeAgain', 'emptyBasket', 'takeStock', 'issueInvoice', 'give', 'mailPaid'),
    paidGone: order('givenUp', 'keepMoney'),
  },
}

/** Of buying a level. `replaced`: another was begun instead; `expired`: nobody paid within its time. Money that comes all the same counts. */
export type PurchaseState = 'pending' | 'paid' | 'declined' | 'refunded' | 'replaced' | 'expired'

export const purchaseEvents = {
  paid: 'the provider tells of the sum that was asked, for the first time',
  paidGone: 'the same, and there is nothing to give: the level is no more, or held for good',
  paidBesides: 'it tells of another sum, or of the same once more',
  declined: 'it tells that a payment failed',
  backAsked: 'staff give the money back',
  back: 'the provider tells that it has gone out',
  backUnasked: 'the same, and nobody asked for it',
  begunAnew: 'the person begins to buy something else',
  unpaid: 'its time is over',
} as const
export type PurchaseEvent = keyof typeof purchaseEvents

export const purchaseEffects = {
  grant: 'gives the time that was paid for',
  withdraw: 'takes as much time as it brought, and what of it was credited since; no end moves later',
  keepMoney: orderEffects.keepMoney,
  tellStaff: orderEffects.tellStaff,
  askBack: orderEffects.askBack,
} as const
export type PurchaseEffect = keyof typeof purchaseEffects

const purchase = (to: PurchaseState, ...does: PurchaseEffect[]): Step<PurchaseState, PurchaseEffect> => ({ to, does })
const waiting = (state: PurchaseState) => ({
  paid: purchase('paid', 'grant'),
  paidGone: purchase(state, 'keepMoney'),
  paidBesides: purchase(state, 'keepMoney'),
  declined: purchase(state),
  // A later fact wins over an earlier one, whichever arrives first.
  back: purchase('refunded'),
  backUnasked: purchase('refunded', 'tellStaff'),
})

export const purchaseSteps: Steps<PurchaseState, PurchaseEvent, PurchaseEffect> = {
  pending: {
    ...waiting('pending'),
    declined: purchase('declined'),
    begunAnew: purchase('replaced'),
    unpaid: purchase('expired'),
  },
  declined: waiting('declined'),
  replaced: waiting('replaced'),
  expired: waiting('expired'),
  paid: {
    paidBesides: purchase('paid', 'keepMoney'),
    declined: purchase('paid'),
    backAsked: purchase('paid', 'askBack'),
    back: purchase('refunded', 'withdraw'),
    backUnasked: purchase('refunded', 'withdraw', 'tellStaff'),
  },
  refunded: {
    // The payment itself, told after the money had gone back already.
    paid: purchase('refunded'),
    paidGone: purchase('refunded'),
    paidBesides: purchase('refunded', 'keepMoney'),
    declined: purchase('refunded'),
    back: purchase('refunded'),
    backUnasked: purchase('refunded', 'tellStaff'),
  },
}

/** What else moves with it. `counts`: the limit of the code, or what is free of the goods, is asked then. */
export interface Plain<S extends string> {
  to: S
  counts?: true
}

/** One use of a code. Of a guest none is kept before it is used. */
export const codeSteps = {
  free: {
    given: { to: 'kept', counts: true },
    placed: { to: 'used', counts: true },
    paidAfterAll: { to: 'used', counts: true },
  },
  kept: { takenOut: { to: 'free' }, over: { to: 'free' }, placed: { to: 'used' } },
  used: { givenUp: { to: 'free' } },
} as const satisfies Record<string, Record<string, Plain<'free' | 'kept' | 'used'>>>

/** A piece of what is counted. */
export const stockSteps = {
  free: {
    till: { to: 'atTill', counts: true },
    placed: { to: 'ordered', counts: true },
    paidAfterAll: { to: 'sold', counts: true },
  },
  atTill: { placed: { to: 'ordered' }, over: { to: 'free' }, emptied: { to: 'free' } },
  ordered: { paid: { to: 'sold' }, givenUp: { to: 'free' } },
  sold: { returned: { to: 'free' } },
} as const satisfies Record<string, Record<string, Plain<'free' | 'atTill' | 'ordered' | 'sold'>>>

/** The papers of an order: one invoice, and a credit note for each time money has gone back. */
export const paperSteps = {
  none: { paid: { to: 'invoiced' } },
  invoiced: { moneyBack: { to: 'invoiced' } },
} as const satisfies Record<string, Record<string, Plain<'none' | 'invoiced'>>>

/** What is asked back: once asked it goes out once, however often that is told. */
export const moneyBackSteps = {
  none: { asked: { to: 'asked', counts: true } },
  asked: { told: { to: 'out' } },
} as const satisfies Record<string, Record<string, Plain<'none' | 'asked' | 'out'>>>

/** What becomes of an order; null where this cannot happen to one in that state. */
export const orderStep = (state: OrderState, event: OrderEvent): Step<OrderState, OrderEffect> | null =>
  orderSteps[state][event] ?? null
export const purchaseStep = (state: PurchaseState, event: PurchaseEvent): Step<PurchaseState, PurchaseEffect> | null =>
  purchaseSteps[state][event] ?? null
