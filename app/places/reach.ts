import { mayLook } from './place'
import type { Place } from './place'

export const reach: Place = { label: 'Reach', path: '/loft', may: mayLook('gates'), also: ['/loft/compare'] }
