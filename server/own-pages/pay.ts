/** The stand-in's till: the page a payment provider would show, for a level or an order. */
import { levelCalledIn } from '../../core/rulebook/public-name'
import { word } from '../../core/site-words/site-words'
import type { Word } from '../../core/site-words/site-words'
import { clockMs } from '../clock'
import { db } from '../db/database'
import { Problem } from '../problem'
import { purchaseOf } from '../services/memberships/held'
import { staleness } from '../services/memberships/memberships'
import { saleWorld } from '../services/memberships/payments'
import { backToBasket } from '../services/orders/place'
import type { OrderRow } from '../services/papers/order-row'
import { orderWorld } from '../services/orders/world'
import { lastNotice, orderOfReference } from '../services/orders/settle'
import { answerTill, tillAnswers } from '../services/payments/stand-in'
import type { TillAnswer } from '../services/payments/stand-in'
import { keepGuestLines } from './basket-held'
import { refused } from './own-page'
import type { Acted, OwnAsk, OwnPage } from './own-page'

export interface PayData {
  what: string
  amount: number
  /** As the page tells it: waits for an answer, is settled, or cannot be paid any more. */
  state: 'open' | 'declined' | 'paid' | 'refunded' | 'stale'
  /** Why it cannot be paid as it is. */ stale: Word | null
  /** Where one goes from here, and where one looks at the price again. */
  home: string
  again: string
  /** Of an order: it can be given up, and lies in the basket again. */ order: boolean
  currency: string
  locale: string
}

/** What lies behind a reference, as far as it is theirs who ask: a level by whoever buys it; an order by whoever has the reference, and was not somebody else. */
async function behind({ caller, rest }: OwnAsk) {
  const reference = rest[0] ?? ''
  const me = caller.signedIn?.personId
  const order = await orderOfReference(db(), reference)
  if (order && (order.personId === null || order.personId === me)) return { order }
  const level = order ? undefined : await purchaseOf(db(), reference)
  if (level && me !== undefined && level.personId === me) return { level }
  throw new Problem('not-found')
}

async function stateOfOrder(order: OrderRow): Promise<Pick<PayData, 'state' | 'stale'>> {
  if (order.state === 'refunded') return { state: 'refunded', stale: null }
  if (order.paidAt) return { state: 'paid', stale: null }
  if (order.state === 'givenUp' || order.expiresAt.getTime() <= clockMs())
    return { state: 'stale', stale: word('wrong.stale-expired') }
  return { state: (await lastNotice(db(), order.reference)) === 'declined' ? 'declined' : 'open', stale: null }
}

export const payPage: OwnPage<PayData> = {
  path: '/pay',
  // An order can be a guest's; whatever else is paid here is a person's.
  signedIn: async ({ rest }) => (await orderOfReference(db(), rest[0] ?? '')) === null,
  async load(ask) {
    const found = await behind(ask)
    const {
      rulebook,
      index: { site },
    } = ask.caller.snapshot.rules
    const money = { currency: site.currency ?? 'EUR', locale: site.locale ?? 'en' }
    if (found.order) {
      const { order } = found
      const at = { home: `/order/${order.id}`, again: '/basket', order: true }
      return { what: `#${order.number}`, amount: order.gross, ...(await stateOfOrder(order)), ...at, ...money }
    }
    const { level, amount, state } = found.level
    const stale = await staleness(db(), saleWorld(ask.caller.snapshot), found.level)
    const shown =
      state === 'paid' || state === 'refunded' ? state : stale ? 'stale' : state === 'declined' ? state : 'open'
    return {
      what: levelCalledIn(rulebook.levels, level),
      amount,
      state: shown,
      stale: stale ? word(`wrong.stale-${stale}`) : null,
      home: '/account',
      again: `/account/buy?level=${level}`,
      order: false,
      ...money,
    }
  },
  async act(ask, form) {
    const found = await behind(ask)
    if (found.order && form.back !== undefined) return goBack(ask, found.order)
    if (!tillAnswers.includes(form.answer as TillAnswer)) return refused({ '': word('wrong.choose') }, form)
    const answer = form.answer as TillAnswer
    if (found.order) return payOrder(found.order, answer)
    const stale = await staleness(db(), saleWorld(ask.caller.snapshot), found.level)
    if (stale) throw new Problem('purchase-stale', { why: stale })
    const settled = await answerTill({ reference: found.level.reference, amount: found.level.amount }, answer)
    const done = settled ? '/account?done=paid' : '/account?done=paid-later'
    return { to: answer === 'decline' ? `/pay/${found.level.reference}` : done }
  },
}

async function payOrder(order: OrderRow, answer: TillAnswer): Promise<Acted> {
  const { state, stale } = await stateOfOrder(order)
  if (stale) throw new Problem('purchase-stale', { why: 'expired' })
  if (state === 'paid' || state === 'refunded') return { to: `/order/${order.id}` }
  await answerTill({ reference: order.reference, amount: order.gross }, answer)
  return { to: answer === 'decline' ? `/pay/${order.reference}` : `/order/${order.id}` }
}

async function goBack({ event, caller }: OwnAsk, order: OrderRow): Promise<Acted> {
  const lines = await backToBasket(db(), orderWorld(caller.snapshot), order.id, caller.signedIn?.personId ?? null)
  if (lines && !caller.signedIn) keepGuestLines(event, lines)
  return { to: '/basket' }
}
