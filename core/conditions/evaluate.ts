/** The plain reading of a condition: walks the document as written. The compiled reading is held to this one. */
import { FALSE, not, TRUE, UNKNOWN } from '../tri'
import type { Tri } from '../tri'
import { keyOf } from './condition'
import type { Condition } from './condition'
import type { Asking } from './leaves/leaf'
import { leafOf } from './leaves/leaves'

/**
 * A reading: `plain`, or with the master key, where held leaves count in the
 * visitor's favour (true, or false under an odd number of `not`s).
 */
export interface Reading extends Asking {
  readonly withKey: boolean
  audienceCondition(id: string): Condition | undefined
}

export type Watch = (path: readonly (string | number)[], value: Tri) => void

/** Three-valued; `watch` is told the value of every part, by its path within the condition. */
export function evaluate(
  node: Condition,
  reading: Reading,
  watch?: Watch,
  path: readonly (string | number)[] = [],
  negated = false,
): Tri {
  const value = valueOf(node, reading, watch, path, negated)
  watch?.(path, value)
  return value
}

function valueOf(
  node: Condition,
  reading: Reading,
  watch: Watch | undefined,
  path: readonly (string | number)[],
  negated: boolean,
): Tri {
  const [key, argument] = keyOf(node)
  if (key === 'not') return not(evaluate(argument as Condition, reading, watch, [...path, 'not'], !negated))
  if (key === 'all' || key === 'any') {
    const values = (argument as Condition[]).map((part, i) =>
      evaluate(part, reading, watch, [...path, key, i], negated),
    )
    return (key === 'all' ? Math.min(TRUE, ...values) : Math.max(FALSE, ...values)) as Tri
  }
  if (key === 'audience') {
    const is = reading.audienceCondition(argument as string)
    return is ? evaluate(is, reading, undefined, [], negated) : UNKNOWN
  }
  const leaf = leafOf(key)
  if (!leaf) return UNKNOWN
  if (reading.withKey && leaf.held) return negated ? FALSE : TRUE
  return leaf.test(argument, reading)
}
