/** The stand-in's till: the page a payment provider would show. */
import { db } from '../db/database'
import { Problem } from '../problem'
import { purchaseOf } from '../services/memberships/memberships'
import { answerTill, tillAnswers } from '../services/memberships/payments'
import type { TillAnswer } from '../services/memberships/payments'
import { refused } from './own-page'
import type { OwnAsk, OwnPage } from './own-page'

export interface TillData { level: string, amount: number, credit: number, state: string, currency: string, locale: string }

async function mine({ caller, rest }: OwnAsk) {
  const row = await purchaseOf(db(), rest[0] ?? '')
  if (!row || row.personId !== caller.signedIn?.personId) throw new Problem('not-found')
  return row
}

export const tillPage: OwnPage<TillData> = {
  path: '/pay', signedIn: true,
  async load(ask) {
    const { level, amount, credit, state } = await mine(ask)
    const { rulebook, index: { site } } = ask.caller.snapshot.rules
    return { level: rulebook.levels?.find(one => one.id === level)?.name ?? level, amount, credit, state, currency: site.currency, locale: site.locale ?? 'en' }
  },
  async act(ask, form) {
    const row = await mine(ask)
    if (row.state !== 'pending' && row.state !== 'declined') return refused({ '': 'This is settled already.' }, form, 409)
    if (!tillAnswers.includes(form.answer as TillAnswer)) return refused({ '': 'Choose an answer.' }, form)
    await answerTill(row.reference, form.answer as TillAnswer)
    return { to: form.answer === 'approve' ? '/account?done=paid' : form.answer === 'later' ? '/account?done=paid-later' : `/pay/${row.reference}` }
  },
}
