import { z } from 'zod'
import { isDate } from '../../calendar'
import { isObject, reference } from '../../shapes'
import { compare, comparison } from './comparison'
import { leaf } from './leaf'

export const fact = leaf(z.strictObject({ name: reference, ...comparison }), {
  looksAt: 'person',
  held: true,
  cut: ({ name, is, in: list = [], atLeast, atMost }, space) => {
    // How texts come after one another is no piece of theirs.
    if ([atLeast, atMost].some(one => typeof one === 'string' && !isDate(one))) space.undecidable = true
    space.fact(
      name,
      [is, ...list, atLeast, atMost].filter(one => one !== undefined),
    )
  },
  test: ({ name, ...asked }, { asker }) => compare(asker.fact(name), asked as object),
  ways: ({ name, is, in: list = [], atLeast, atMost }, { wanted }) => {
    if (!wanted) return []
    const values = is === undefined ? (list.length ? list : [atLeast ?? atMost ?? true]) : [is]
    return values.map(value => [{ fact: name, value }])
  },
  references: (argument, at, check) => {
    if (isObject(argument)) check.fact(argument, at)
  },
})
