/** Comparisons of a fact or a record's field; all that are given must hold. */
import { z } from 'zod'
import { choices } from '../../shapes'
import { triOf, UNKNOWN } from '../../tri'
import type { Tri } from '../../tri'

const value = z.union([z.string(), z.number(), z.boolean()])
export type FactValue = z.infer<typeof value>

export interface Comparison {
  is?: FactValue
  in?: FactValue[]
  atLeast?: FactValue
  atMost?: FactValue
}
export const comparison = {
  is: value.optional(),
  in: choices(value).optional(),
  atLeast: value.optional(),
  atMost: value.optional(),
}

/** Compares a value with all that is asked of it; unknown when there is no value. A value of another type fails a comparison. */
export function compare(value: FactValue | undefined, { is, in: list, atLeast, atMost }: Comparison): Tri {
  if (value === undefined) return UNKNOWN
  const ordered = (bound: FactValue) =>
    typeof bound === typeof value && (typeof value === 'number' || typeof value === 'string')
  return triOf(
    (is === undefined || value === is) &&
      (list === undefined || list.includes(value)) &&
      (atLeast === undefined || (ordered(atLeast) && value >= atLeast)) &&
      (atMost === undefined || (ordered(atMost) && value <= atMost)),
  )
}
