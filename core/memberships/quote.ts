/** What a level costs somebody now: new, again, up or down, with what is left of what they paid before. */
import { addDuration } from '../calendar'
import { unusedOf } from './paid-period'
import type { PaidPeriod } from './paid-period'
import type { Level } from '../rulebook/people-rules'

/** A bought membership that runs now. Times in milliseconds since 1970, money in the currency's minor unit. */
export interface BoughtNow {
  level: string
  paidUntil: number | null
  /** What was paid for it: each purchase that is not over yet. */ periods: readonly PaidPeriod[]
  /** The day of the month its periods end on, where the month has it. */ anchorDay?: number | null
}

export type QuoteSort = 'new' | 'renewal' | 'upgrade' | 'downgrade'
export interface Quote {
  sort: QuoteSort
  level: string
  /** Of a whole period. */
  price: number
  /** Left of what was paid for the level held now; taken off. */
  credit: number
  /** To pay now. */
  amount: number
  startsAt: number
  /** Null: without an end. */
  endsAt: number | null
}

export type NoQuote = 'not-for-sale' | 'held-for-good'

/** The length of one paid period: the level's term, else its price's month or year; null when bought once for good. */
export function periodOf(level: Level): string | null {
  if (level.term) return level.term
  const every = level.price?.every
  return every === 'month' ? 'P1M' : every === 'year' ? 'P1Y' : null
}

export function endOf(level: Level, startMs: number, timezone: string, anchorDay?: number | null): number | null {
  const period = periodOf(level)
  return period === null ? null : addDuration(startMs, period, timezone, anchorDay ?? undefined)
}

/** What is left of all that was paid for it. */
export const unusedPart = ({ periods }: Pick<BoughtNow, 'periods'>, nowMs: number): number =>
  periods.reduce((sum, one) => sum + unusedOf(one, nowMs), 0)

/**
 * The price of `target` for somebody who holds `held` (bought, running now), or why there is none.
 * Up: at once, the unused part taken off. Down: from the end of what is paid, nothing now.
 * The same again: from the end of what is paid.
 */
export function quoteFor({
  levels,
  held,
  target,
  nowMs,
  timezone,
}: {
  levels: readonly Level[]
  held: readonly BoughtNow[]
  target: string
  nowMs: number
  timezone: string
}): Quote | NoQuote {
  const level = levels.find(one => one.id === target)
  if (!level?.price) return 'not-for-sale'
  const price = level.price.amount
  const rankOf = (id: string) => levels.find(one => one.id === id)?.rank ?? 0
  const same = held.find(one => one.level === target)
  const quote = (sort: QuoteSort, startsAt: number, credit: number, amount: number): Quote => ({
    sort,
    level: target,
    price,
    credit,
    amount,
    startsAt,
    endsAt: endOf(level, startsAt, timezone, same?.anchorDay),
  })
  if (same)
    return same.paidUntil === null ? 'held-for-good' : quote('renewal', Math.max(same.paidUntil, nowMs), 0, price)
  const above = held.filter(one => rankOf(one.level) > level.rank).sort((a, b) => rankOf(b.level) - rankOf(a.level))[0]
  if (above) return above.paidUntil === null ? 'held-for-good' : quote('downgrade', above.paidUntil, 0, 0)
  const credit = Math.min(
    price,
    held.reduce((sum, one) => sum + unusedPart(one, nowMs), 0),
  )
  return held.length ? quote('upgrade', nowMs, credit, price - credit) : quote('new', nowMs, 0, price)
}
