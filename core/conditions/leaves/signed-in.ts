import { z } from 'zod'
import { FALSE, TRUE, triOf } from '../../tri'
import { leaf } from './leaf'

export const signedIn = leaf(z.boolean(), {
  looksAt: 'person',
  // Guests and others are told apart anyhow.
  cut: () => {},
  ways: (is, { wanted }) => [[{ sign: is === wanted ? 'in' : 'out' }]],
  test: (wanted, { asker }) => triOf(asker.signedIn === wanted),
  prepare:
    wanted =>
    ({ asker }) =>
      asker.signedIn === wanted ? TRUE : FALSE,
})
