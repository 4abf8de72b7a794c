import type { Rulebook } from '~~/core/rulebook/rulebook'
import { called } from '~~/core/sentences/names'
import type { StaffNames } from '~~/core/staff/say-staff-rule'
import { staffKinds } from '~~/core/staff/staff-kinds'
import type { StaffAction, StaffKind, StaffKindId } from '~~/core/staff/staff-kinds'

export const actionWords: Record<StaffAction, string> = {
  look: 'look at',
  add: 'add',
  change: 'change',
  withdraw: 'withdraw',
  publish: 'publish',
}
export const kindOf = (kind: StaffKindId): StaffKind => staffKinds[kind]

export const staffNames = (book: Rulebook): StaffNames => ({
  role: id => called(book.roles, id),
  audience: id => called(book.audiences, id),
})
