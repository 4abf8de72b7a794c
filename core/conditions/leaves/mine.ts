import { z } from 'zod'
import { triOf } from '../../tri'
import { leaf } from './leaf'

/** The visitor owns the record. */
export const mine = leaf(z.literal(true), {
  looksAt: 'person',
  held: true,
  ofRecord: true,
  cut: null,
  ways: null,
  test: (_, { asker, record }) => triOf(asker.personId !== undefined && record?.owner === asker.personId),
})
