import { mayLook } from '~/loft/core/place'
import type { Place } from '~/loft/core/place'

export const reach: Place = { label: 'Reach', path: '/loft', may: mayLook('gates'), also: ['/loft/compare'] }
