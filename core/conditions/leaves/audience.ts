import { reference } from '../../shapes'
import { leaf } from './leaf'

/** A condition the operator gave a name: looks at what that looks at. */
export const audience = leaf(reference, {
  looksAt: null,
  cut: null,
  ways: null,
  test: (id, asking) => asking.audience(id),
  references: (argument, at, check) => check.among(argument, at, 'audiences'),
})
