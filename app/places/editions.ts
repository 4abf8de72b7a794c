import { mayLook } from './place'
import type { Place } from './place'

export const editions: Place = {
  label: 'Editions',
  path: '/loft/editions',
  may: mayLook('gates'),
  count: loft => loft.changes.length,
}
