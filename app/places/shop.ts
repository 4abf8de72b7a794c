import { mayLook } from './place'
import type { Place } from './place'

export const shop: Place = { label: 'Shop', path: '/loft/shop', may: mayLook('products') }
