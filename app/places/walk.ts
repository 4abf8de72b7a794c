import { mayLook } from './place'
import type { Place } from './place'

export const walk: Place = { label: 'Walk', path: '/loft/walk', may: mayLook('gates') }
