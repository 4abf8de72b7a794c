import { z } from 'zod'
import { isObject, reference } from '../../shapes'
import { compare, comparison } from './comparison'
import { leaf } from './leaf'

export const fact = leaf(z.strictObject({ name: reference, ...comparison }), {
  looksAt: 'person',
  held: true,
  test: ({ name, ...asked }, { asker }) => compare(asker.facts.get(name), asked as object),
  references: (argument, at, check) => {
    if (isObject(argument)) check.fact(argument, at)
  },
})
