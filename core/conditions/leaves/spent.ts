import type { Dimension } from '../../visitor/space/dimension'
import { bought, thresholds } from '../../visitor/space/pieces'
import { z } from 'zod'
import { minor } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'

const amounts: Dimension<Set<number>> = {
  held: true,
  start: () => new Set(),
  pieces: cuts => [thresholds(cuts, (visitor, spent) => bought(visitor, { spent }))],
}

export const spent = leaf(z.strictObject({ atLeast: minor }), {
  looksAt: 'person',
  held: true,
  cut: ({ atLeast }, space) => space.on(amounts).add(atLeast),
  ways: null,
  test: ({ atLeast }, { asker }) => triOf(asker.signedIn && asker.spent >= atLeast),
})
