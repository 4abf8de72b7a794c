/** The kind of thing staff need a right for, by kind of rulebook entry. */
import type { EntryKind } from '../rulebook/rulebook'
import type { StaffKindId } from './staff-kinds'

export const staffKindOfEntry: Record<EntryKind, StaffKindId> = {
  level: 'levels',
  role: 'roles',
  permission: 'roles',
  fact: 'settings-sign-up',
  audience: 'gates',
  gate: 'gates',
  offer: 'offers',
  delivery: 'delivery',
  landing: 'landings',
  tier: 'gates',
  tax: 'tax',
  rate: 'tax',
  exception: 'tax',
  goods: 'tax',
  shown: 'tax',
  settings: 'gates',
  'tax-settings': 'tax',
}
