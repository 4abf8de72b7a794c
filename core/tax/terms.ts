/** What applies somewhere: the rates that were picked, with what exceptions make of them, and what each comes to. */
import type { z } from 'zod'
import type { exception, rate } from '../rulebook/shop-rules'
import { decimal, decimalText } from '../exact'
import { one, Ratio } from './ratio'
import type { AppliedRate, LeftOutRate } from './tax-trail'

export type Rate = z.infer<typeof rate>
export type Exception = z.infer<typeof exception>

const partOf = (percent: string | number): Ratio => new Ratio(decimal(percent).div(100))

export interface CompiledTaxKind {
  id: string
  called: string
  onTopOf: readonly string[]
}
export interface CompiledRate {
  rate: Rate
  tax: CompiledTaxKind
  /** Those that name it and are switched on, in the order of the rulebook. */ exceptions: readonly Exception[]
}

/** What applies to goods of a category somewhere, or to delivery. */
export interface Terms {
  applied: readonly AppliedRate[]
  leftOut: readonly LeftOutRate[]
  /** By position, of the price without tax. */ parts: readonly Ratio[]
  /** One and all parts. */ factor: Ratio
}
export const untaxed: Terms = { applied: [], leftOut: [], parts: [], factor: one }

/** `chosen`: by position, the exception that holds for somebody. Default: none. */
export function termsOf(
  picked: readonly CompiledRate[],
  isDelivery: boolean,
  chosen: readonly (Exception | undefined)[] = [],
): Terms {
  const leftOut: LeftOutRate[] = []
  const left = picked.flatMap(({ rate, tax }, i) => {
    const exception = chosen[i]
    const named = { ...(exception ? { exception: exception.id } : {}), ...toldOf(exception) }
    const isFree = isDelivery && (exception?.delivery ?? rate.delivery) === 'free'
    if (exception?.none || isFree) {
      leftOut.push({ rate: rate.id, tax: tax.id, why: exception?.none ? 'dropped' : 'deliveryFree', ...named })
      return []
    }
    const called = exception?.called ?? tax.called
    const percent = exception?.owedBy ? '0' : (exception?.percent ?? rate.percent)
    const onTopOf = exception?.onTopOf ?? tax.onTopOf
    return [{ rate: rate.id, tax: tax.id, called, percent, onTopOf, named }]
  })
  const { parts, below, factor } = partsOf(left)
  const applied = left.map(({ rate, tax, called, percent, named }, i): AppliedRate => {
    const onTopOf = below[i]!.map(k => left[k]!.rate)
    return {
      rate,
      tax,
      called,
      percent: decimalWords(percent),
      onTopOf,
      contribution: parts[i]!.percent,
      ...named,
    }
  })
  return { applied, leftOut, parts, factor }
}

/** What an invoice says of terms. */
const toldOf = (exception: Exception | undefined) => ({
  ...(exception?.owedBy && !exception.none ? { owedBy: exception.owedBy } : {}),
  ...(exception?.reason ? { reason: exception.reason } : {}),
})

/** A percentage without what does not count: `13.50` is `13.5`. */
const decimalWords = (percent: string | number): string => decimalText(decimal(percent))

/** What is worked out of: a rate that applies, and the taxes it is taken on top of. */
interface Standing {
  rate: string
  tax: string
  percent: string | number
  onTopOf: readonly string[]
}
interface Parts {
  /** Of the price without tax, by position. */ parts: readonly Ratio[]
  /** By position, the positions of those it is taken on top of. */ below: readonly (readonly number[])[]
  /** One and all parts. */ factor: Ratio
}

/**
 * Each tax of the price without tax: its percentage of one and of all it is on top of. Rules have no rings of taxes; where
 * exceptions together make one, whatever is on it or leads into it builds on what is on none.
 */
function partsOf(rates: readonly Standing[]): Parts {
  const parts: (Ratio | undefined)[] = rates.map(() => undefined)
  const below: number[][] = rates.map(() => [])
  let waiting = [...rates.keys()]
  while (waiting.length) {
    const on = new Map(
      waiting.map(i => [i, [...rates.keys()].filter(k => rates[i]!.onTopOf.includes(rates[k]!.tax))] as const),
    )
    const ready = waiting.filter(i => on.get(i)!.every(k => parts[k]))
    const now = ready.length ? ready : waiting
    const made = now.map(i => {
      below[i] = on.get(i)!.filter(k => parts[k])
      const base = plus(below[i].map(k => parts[k]!))
      return base.times(partOf(rates[i]!.percent))
    })
    now.forEach((i, n) => (parts[i] = made[n]!))
    waiting = waiting.filter(i => !now.includes(i))
  }
  return { parts: parts as Ratio[], below, factor: plus(parts as Ratio[]) }
}

/** One and all of them. */
function plus(parts: readonly Ratio[]): Ratio {
  return parts.reduce((all, part) => all.plus(part), one)
}
