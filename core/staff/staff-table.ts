/** The board of staff roles by kinds of thing: how far each role goes with each kind. */
import { staffKinds } from './staff-kinds'
import type { StaffAction, StaffKind, StaffKindId } from './staff-kinds'
import type { StaffRule } from './staff-rule'

/** Filled like reach: nothing, looking, some work, everything the kind knows. */
export type StaffFill = 'none' | 'look' | 'some' | 'all'

export interface StaffCell {
  fill: StaffFill
  actions: StaffAction[]
  /** Held only for some fields or only for some people's things. */
  narrowed: boolean
}

/** The sum of `rules` on one kind, be they one role's or one person's. */
export function staffCell(rules: readonly StaffRule[], kind: StaffKindId, masterKey = false): StaffCell {
  const known: readonly StaffAction[] = (staffKinds[kind] as StaffKind).actions
  if (masterKey) return { fill: 'all', actions: [...known], narrowed: false }
  const here = rules.filter(rule => rule.kind === kind)
  const actions = known.filter(action => here.some(rule => rule.actions.includes(action)))
  const whole = (action: StaffAction) =>
    here.some(rule => rule.actions.includes(action) && rule.whose === 'anyone' && !rule.fields)
  const narrowed = actions.some(action => !whole(action))
  const fill =
    actions.length === 0
      ? 'none'
      : actions.length === known.length && !narrowed
        ? 'all'
        : actions.every(action => action === 'look')
          ? 'look'
          : 'some'
  return { fill, actions, narrowed }
}
