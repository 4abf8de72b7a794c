import { staffKinds } from '~~/core/staff/staff-kinds'
import type { StaffAction, StaffKind, StaffKindId } from '~~/core/staff/staff-kinds'
import type { StaffNames } from '~~/core/staff/say-staff-rule'
import type { Rulebook } from '~~/core/rulebook/rulebook'

export const actionWords: Record<StaffAction, string> = {
  look: 'look at',
  add: 'add',
  change: 'change',
  withdraw: 'withdraw',
  publish: 'publish',
}
export const kindOf = (kind: StaffKindId): StaffKind => staffKinds[kind]
export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

export const staffNames = (book: Rulebook): StaffNames => ({
  role: id => book.roles?.find(one => one.id === id)?.name ?? id,
  audience: id => book.audiences?.find(one => one.id === id)?.name ?? id,
})
