import { thingStaffKinds } from '~~/core/staff/thing-kind'
import type { Place } from './place'

export const content: Place = {
  label: 'Content',
  path: '/loft/content',
  may: loft => thingStaffKinds.some(kind => loft.may(kind, 'look')),
}
