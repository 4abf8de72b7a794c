import { thingStaffKinds } from '~~/core/staff/thing-kind'
import type { Place } from '~/loft/core/place'

export const site: Place = {
  label: 'Site',
  path: '/loft/site',
  may: loft => thingStaffKinds.some(kind => loft.may(kind, 'look')),
}
