import { z } from 'zod'
import { minor } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'

export const spent = leaf(z.strictObject({ atLeast: minor }), {
  looksAt: 'person',
  held: true,
  cut: ({ atLeast }, space) => space.spentFrom(atLeast),
  test: ({ atLeast }, { asker }) => triOf(asker.signedIn && asker.spent >= atLeast),
})
