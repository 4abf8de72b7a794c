import type { Dimension } from '../../visitor/space/dimension'
import { thresholds } from '../../visitor/space/pieces'
import { withBought } from '../../visitor/visitor'
import { z } from 'zod'
import { minor } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'

const amounts: Dimension<Set<number>> = {
  held: true,
  start: () => new Set(),
  pieces: cuts => [thresholds(cuts, (visitor, spent) => withBought(visitor, { spent }))],
}

export const spent = leaf(z.strictObject({ atLeast: minor }), {
  looksAt: 'person',
  held: true,
  cut: ({ atLeast }, space) => space.on(amounts).add(atLeast),
  ways: null,
  test: ({ atLeast }, { asker }) => triOf(asker.signedIn && asker.spent >= atLeast),
})
