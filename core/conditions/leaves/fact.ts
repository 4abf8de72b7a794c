import { z } from 'zod'
import { isObject, reference } from '../../shapes'
import { compare, comparison } from './comparison'
import { leaf } from './leaf'

export const fact = leaf(z.strictObject({ name: reference, ...comparison }), {
  looksAt: 'person',
  held: true,
  test: ({ name, ...asked }, { asker }) => compare(asker.facts.get(name), asked as object),
  ways: ({ name, is, in: list = [], atLeast, atMost }, { wanted }) => {
    if (!wanted) return []
    const values = is === undefined ? (list.length ? list : [atLeast ?? atMost ?? true]) : [is]
    return values.map(value => [{ fact: name, value }])
  },
  references: (argument, at, check) => {
    if (isObject(argument)) check.fact(argument, at)
  },
})
