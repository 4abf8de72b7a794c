/** Where conditions stand in the entries of a rulebook. */
import type { Condition } from '../conditions/condition'
import { rights } from '../kinds/kinds'
import type { EntryKind } from './rulebook'

/** Keys of an entry behind which a condition stands, by its kind; kinds that have none are left out. */
const conditionKeys: Partial<Record<EntryKind, readonly string[]>> = {
  gate: rights,
  audience: ['is'],
  offer: ['for'],
  delivery: ['for'],
  landing: ['for'],
  exception: ['for'],
  goods: ['for'],
  shown: ['for'],
}
export const conditionedKinds = Object.keys(conditionKeys) as EntryKind[]

/** Each condition an entry states, with its key. */
export const conditionsIn = (kind: EntryKind, body: object): [key: string, condition: Condition][] =>
  (conditionKeys[kind] ?? []).flatMap(key => {
    const condition = (body as Record<string, Condition | undefined>)[key]
    return condition ? [[key, condition] as [string, Condition]] : []
  })

/** The entry with each of its conditions as `make` makes it; the very same where none of them differs. */
export function withConditions<B extends object>(kind: EntryKind, body: B, make: (one: Condition) => Condition): B {
  const changed = conditionsIn(kind, body).flatMap(([key, condition]) => {
    const made = make(condition)
    return made === condition ? [] : [[key, made] as const]
  })
  return changed.length ? { ...body, ...Object.fromEntries(changed) } : body
}
