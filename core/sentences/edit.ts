/** Changes to a condition at a place, each answering a new condition. Paths are those of `say`'s tokens. */
import { keyOf } from '../conditions/condition'
import type { Condition } from '../conditions/condition'

export type Place = readonly (string | number)[]

export function partAt(condition: Condition, path: Place): Condition {
  return path.reduce<unknown>((node, key) => (node as Record<string | number, unknown>)[key], condition) as Condition
}

export function replaceAt(condition: Condition, path: Place, part: Condition): Condition {
  return setAt(condition, path, part) as Condition
}

function setAt(node: unknown, path: Place, value: unknown): unknown {
  if (path.length === 0) return value
  const [key, ...rest] = path as [string | number, ...(string | number)[]]
  if (Array.isArray(node)) return node.map((one, i) => (i === key ? setAt(one, rest, value) : one))
  return { ...(node as object), [key]: setAt((node as Record<string, unknown>)[key], rest, value) }
}

/** Takes a part out. A join left with one part becomes that part; the last part of all leaves null. */
export function removeAt(condition: Condition, path: Place): Condition | null {
  if (path.length === 0) return null
  const last = path.at(-1)!
  if (last === 'not') return removeAt(condition, path.slice(0, -1))
  const holder = path.slice(0, -2)
  const key = path.at(-2) as 'all' | 'any'
  const parts = (partAt(condition, holder) as Record<'all' | 'any', Condition[]>)[key].filter((_, i) => i !== last)
  if (parts.length === 0) return removeAt(condition, holder)
  return replaceAt(condition, holder, parts.length === 1 ? parts[0]! : ({ [key]: parts } as Condition))
}

/** Puts a part beside another, joined with `all` (and) or `any` (or); joins the list already there when it is of that kind. */
export function addBeside(condition: Condition, path: Place, join: 'all' | 'any', part: Condition): Condition {
  const here = partAt(condition, path)
  const [key, argument] = keyOf(here)
  if (key === join) return replaceAt(condition, path, { [join]: [...(argument as Condition[]), part] } as Condition)
  const around = path.slice(0, -2)
  if (path.length >= 2 && path.at(-2) === join) {
    const parts = (partAt(condition, around) as Record<string, Condition[]>)[join]!
    const position = (path.at(-1) as number) + 1
    return replaceAt(condition, around, {
      [join]: [...parts.slice(0, position), part, ...parts.slice(position)],
    } as Condition)
  }
  if (key === 'everyone' || key === 'nobody') return replaceAt(condition, path, part)
  return replaceAt(condition, path, { [join]: [here, part] } as Condition)
}

/** Turns a part into its opposite and back. */
export function negateAt(condition: Condition, path: Place): Condition {
  if (path.at(-1) === 'not') return replaceAt(condition, path.slice(0, -1), partAt(condition, path))
  return replaceAt(condition, path, { not: partAt(condition, path) })
}

/** Brackets a part with its next neighbour under the other join; without a neighbour nothing changes. */
export function bracketAt(condition: Condition, path: Place): Condition {
  const position = path.at(-1)
  const key = path.at(-2)
  if (typeof position !== 'number' || (key !== 'all' && key !== 'any')) return condition
  const holder = path.slice(0, -2)
  const parts = (partAt(condition, holder) as Record<string, Condition[]>)[key]!
  if (parts.length < 3 || position + 1 >= parts.length) return condition
  const inner = { [key === 'all' ? 'any' : 'all']: [parts[position]!, parts[position + 1]!] } as Condition
  return replaceAt(condition, holder, {
    [key]: [...parts.slice(0, position), inner, ...parts.slice(position + 2)],
  } as Condition)
}
