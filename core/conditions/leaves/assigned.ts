import { reference } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'

/** That field of the record, which holds persons, holds the visitor. */
export const assigned = leaf(reference, {
  looksAt: 'person',
  held: true,
  ofRecord: true,
  cut: null,
  ways: null,
  test: (field, { asker, record }) => {
    const held = record?.values?.[field]
    return triOf(
      asker.personId !== undefined && (Array.isArray(held) ? held.includes(asker.personId) : held === asker.personId),
    )
  },
  references: (argument, at, check) => check.field(argument, at, 'person'),
})
