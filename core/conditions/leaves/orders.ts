import { z } from 'zod'
import { count } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'

export const orders = leaf(z.strictObject({ atLeast: count }), {
  looksAt: 'person',
  held: true,
  cut: ({ atLeast }, space) => space.ordersFrom(atLeast),
  test: ({ atLeast }, { asker }) => triOf(asker.signedIn && asker.orders >= atLeast),
})
