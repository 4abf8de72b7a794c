import type { Dimension } from '../../visitor/space/dimension'
import { thresholds } from '../../visitor/space/pieces'
import { withBought } from '../../visitor/visitor'
import { z } from 'zod'
import { count } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'

const amounts: Dimension<Set<number>> = {
  held: true,
  start: () => new Set(),
  pieces: cuts => [thresholds(cuts, (visitor, orders) => withBought(visitor, { orders }))],
}

export const orders = leaf(z.strictObject({ atLeast: count }), {
  looksAt: 'person',
  held: true,
  cut: ({ atLeast }, space) => space.on(amounts).add(atLeast),
  ways: null,
  test: ({ atLeast }, { asker }) => triOf(asker.signedIn && asker.orders >= atLeast),
})
