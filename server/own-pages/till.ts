/** The stand-in's till: the page a payment provider would show. */
import { levelCalledIn } from '../../core/rulebook/public-name'
import { db } from '../db/database'
import { Problem } from '../problem'
import { purchaseOf, staleness } from '../services/memberships/memberships'
import { answerTill, saleWorld, tillAnswers } from '../services/memberships/payments'
import type { TillAnswer } from '../services/memberships/payments'
import { refused } from './own-page'
import { word } from '../../core/site-words/site-words'
import type { Word } from '../../core/site-words/site-words'
import type { OwnAsk, OwnPage } from './own-page'

export interface TillData {
  level: string
  levelId: string
  amount: number
  credit: number
  state: string
  /** Why it cannot be paid as it is. */ stale: Word | null
  currency: string
  locale: string
}

async function mine({ caller, rest }: OwnAsk) {
  const row = await purchaseOf(db(), rest[0] ?? '')
  if (!row || row.personId !== caller.signedIn?.personId) throw new Problem('not-found')
  return row
}

export const tillPage: OwnPage<TillData> = {
  path: '/pay',
  signedIn: true,
  async load(ask) {
    const row = await mine(ask)
    const { level, amount, credit, state } = row
    const stale = await staleness(db(), saleWorld(ask.caller.snapshot), row)
    const {
      rulebook,
      index: { site },
    } = ask.caller.snapshot.rules
    return {
      level: levelCalledIn(rulebook.levels, level),
      levelId: level,
      amount,
      credit,
      state,
      stale: stale ? word(`wrong.stale-${stale}`) : null,
      currency: site.currency,
      locale: site.locale ?? 'en',
    }
  },
  async act(ask, form) {
    const row = await mine(ask)
    if (!tillAnswers.includes(form.answer as TillAnswer)) return refused({ '': word('wrong.choose') }, form)
    const settled = await answerTill(saleWorld(ask.caller.snapshot), row, form.answer as TillAnswer)
    return {
      to:
        form.answer === 'decline'
          ? `/pay/${row.reference}`
          : settled
            ? '/account?done=paid'
            : '/account?done=paid-later',
    }
  },
}
