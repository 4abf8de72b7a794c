import { z } from 'zod'
import { choices, reference } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'

export const query = leaf(z.strictObject({ name: reference, in: choices(z.string()).optional() }), {
  looksAt: 'query',
  cut: ({ name, in: list }, space) => space.query(name, list),
  test: ({ name, in: list }, { asker }) =>
    triOf(Object.hasOwn(asker.query, name) && (!list || list.includes(asker.query[name]!))),
})
