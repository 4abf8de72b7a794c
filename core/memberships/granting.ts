/**
 * What a paid purchase brings, worked out at the moment it is paid: others of
 * the same person may have been paid meanwhile. The price and the period are
 * those it was begun with.
 */
import { addDuration, dayOfMonth } from '../calendar'
import { creditsOf } from './paid-period'
import type { Credit } from './paid-period'
import type { BoughtNow } from './quote'

/** A purchase as it was begun. Times in milliseconds since 1970, money in the minor unit. */
export interface Bought {
  level: string
  /** Of a whole period. */
  price: number
  /** Paid in money, and taken off for what was held then. */
  amount: number
  credit: number
  /** ISO duration; null: for good. */
  period: string | null
  begunAt: number
  /** The membership it goes on from, where it was begun as its renewal. */
  from?: number | null
}

/** A bought membership that runs now, or that this purchase goes on from. */
export interface Held extends BoughtNow {
  id: number
  since: number
  renewAs: string | null
  anchorDay: number | null
}

export interface Granting {
  /** Goes on in this membership; undefined: a new one is made. */
  extends?: number
  /** These end at `startsAt`. */
  ends: number[]
  startsAt: number
  /** Null: without an end. */
  endsAt: number | null
  /** What it is worth, for what is left of it later; and how much of that was credited of which purchases. */
  paid: number
  credits: Credit[]
  anchorDay: number
}

interface Ask {
  bought: Bought
  held: readonly Held[]
  rankOf(level: string): number
  nowMs: number
  timezone: string
}

/** Null where there is nothing to give: it is held for good already. */
export function grantingOf(ask: Ask): Granting | null {
  const { bought, held, rankOf, nowMs } = ask
  const same = held.find(one => one.level === bought.level)
  if (same) return same.paidUntil === null ? null : { ...period(ask, same.paidUntil, same), extends: same.id, ends: [] }
  const before = held.find(one => one.id === bought.from && one.renewAs === bought.level)
  if (before?.paidUntil) return { ...period(ask, before.paidUntil, before), ends: [before.id] }
  const above = held
    .filter(one => rankOf(one.level) > rankOf(bought.level) && one.paidUntil !== null)
    .sort((a, b) => b.paidUntil! - a.paidUntil!)[0]
  if (above) return { ...period(ask, Math.max(above.paidUntil!, nowMs)), ends: [] }
  // What was held when it was begun is what the credit was for; what was bought since goes on beside it.
  return { ...period(ask, nowMs), ends: creditedBy(ask).map(one => one.id) }
}

const creditedBy = ({ bought, held, rankOf }: Ask) =>
  held.filter(one => rankOf(one.level) < rankOf(bought.level) && one.since <= bought.begunAt)

/** Where what the credit was for is gone, since another purchase has used it up, the period is shorter by its part of the price. */
function period(
  ask: Ask,
  startsAt: number,
  goesOn?: Held,
): Pick<Granting, 'startsAt' | 'endsAt' | 'paid' | 'credits' | 'anchorDay'> {
  const { bought, timezone } = ask
  const credits = creditsOf(
    creditedBy(ask).flatMap(one => one.periods),
    bought.begunAt,
    bought.credit,
  )
  const paid = credits.reduce((sum, one) => sum + one.amount, bought.amount)
  const anchorDay = goesOn?.anchorDay ?? dayOfMonth(startsAt, timezone)
  if (bought.period === null) return { startsAt, endsAt: null, paid, credits, anchorDay }
  const whole = addDuration(startsAt, bought.period, timezone, anchorDay)
  if (paid >= bought.price) return { startsAt, endsAt: whole, paid, credits, anchorDay }
  const endsAt = startsAt + Number((BigInt(whole - startsAt) * BigInt(paid)) / BigInt(bought.price))
  return { startsAt, endsAt, paid, credits, anchorDay: dayOfMonth(endsAt, timezone) }
}
