import { mayLook } from '~/loft/core/place'
import type { Place } from '~/loft/core/place'

export const editions: Place = {
  label: 'Editions',
  path: '/loft/editions',
  may: mayLook('gates'),
  count: loft => loft.changes.length,
}
