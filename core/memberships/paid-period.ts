/**
 * Time that was paid for, purchase by purchase, and what becomes of it as money goes back. Times in milliseconds since
 * 1970, money in the minor unit.
 */

/** What one purchase brought. */
export interface PaidPeriod {
  /** Of the purchase; empty for what was held before purchases were kept. */ reference: string
  from: number
  /** Null: without an end. */ until: number | null
  /** What was paid for it, credited money and all. */ paid: number
}

/** Half up. */
const part = (whole: number, of: number, all: number): number =>
  Number((2n * BigInt(whole) * BigInt(of) + BigInt(all)) / (2n * BigInt(all)))

/** What is left of a paid period: paid × time left / whole time, rounded half up to the minor unit. */
export function unusedOf({ paid, from, until }: PaidPeriod, nowMs: number): number {
  if (until === null || until <= nowMs || until <= from) return 0
  return part(paid, until - Math.max(nowMs, from), until - from)
}

export interface Credit {
  reference: string
  amount: number
}

/** What is left of all of it, at most so much: of what runs first, first. */
export function creditsOf(periods: readonly PaidPeriod[], nowMs: number, most: number): Credit[] {
  let left = most
  return [...periods]
    .sort((a, b) => a.from - b.from)
    .flatMap(period => {
      const amount = Math.min(left, unusedOf(period, nowMs))
      left -= amount
      return amount > 0 ? [{ reference: period.reference, amount }] : []
    })
}

/** A paid purchase with what it brought to which membership. */
export interface PaidPurchase extends PaidPeriod {
  membership: number | null
  /** Of which purchases so much went into it. */ credits: readonly Credit[]
}

export interface Withdrawn {
  /** Those that are otherwise now, without the one that is given back. */ purchases: PaidPurchase[]
  /** By membership, milliseconds by which its end comes sooner; null: what was for good ends. */
  sooner: Map<number, number | null>
  /** What is held for good, and is paid for by so much less than its price now. */ short: Credit[]
}

/**
 * What follows when the money of one purchase goes back: the time it brought is taken away, what follows on it moves up,
 * and what part of it was credited to is worth as much less, and shorter by that part; so is what that was credited to.
 */
export function withdrawnFrom(purchases: readonly PaidPurchase[], reference: string): Withdrawn {
  const now = new Map(purchases.map(one => [one.reference, { ...one, credits: [...one.credits] }]))
  const sooner: Withdrawn['sooner'] = new Map()
  const short: Credit[] = []

  /** Takes so much time off the end of one, and moves up what follows on it. */
  function cut(one: PaidPurchase, length: number): void {
    if (one.membership === null || one.until === null || length <= 0) return
    const end = one.until
    one.until -= length
    for (const later of now.values())
      if (later !== one && later.membership === one.membership && later.from >= end) {
        later.from -= length
        if (later.until !== null) later.until -= length
      }
    const before = sooner.get(one.membership)
    if (before !== null) sooner.set(one.membership, (before ?? 0) + length)
  }

  /** `worth`: what it was worth before `lost` of it went. */
  function loseCredits(of: string, lost: number, worth: number): void {
    for (const one of now.values()) {
      const credit = one.credits.find(given => given.reference === of)
      if (!credit || credit.amount <= 0 || worth <= 0) continue
      const amount = Math.min(credit.amount, part(credit.amount, lost, worth))
      one.credits = one.credits.map(given => (given === credit ? { ...given, amount: given.amount - amount } : given))
      lose(one, amount)
    }
  }

  function lose(one: PaidPurchase, lost: number): void {
    if (lost <= 0) return
    const worth = one.paid
    one.paid = Math.max(0, worth - lost)
    if (one.until === null) short.push({ reference: one.reference, amount: lost })
    else if (worth > 0)
      cut(
        one,
        one.until - one.from - Math.floor(Number((BigInt(one.until - one.from) * BigInt(one.paid)) / BigInt(worth))),
      )
    loseCredits(one.reference, lost, worth)
  }

  const back = now.get(reference)
  if (!back) return { purchases: [], sooner, short }
  if (back.until === null) {
    if (back.membership !== null) sooner.set(back.membership, null)
  } else cut(back, back.until - back.from)
  loseCredits(reference, 1, 1)
  now.delete(reference)
  const isOther = (one: PaidPurchase) => {
    const before = purchases.find(other => other.reference === one.reference)!
    return (
      before.from !== one.from ||
      before.until !== one.until ||
      before.paid !== one.paid ||
      before.credits.some((credit, i) => credit.amount !== one.credits[i]!.amount)
    )
  }
  return { purchases: [...now.values()].filter(isOther), sooner, short }
}
