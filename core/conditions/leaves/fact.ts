import { orOneOf } from '../../visitor/space/dimension'
import type { Dimension } from '../../visitor/space/dimension'
import { pieceValues } from '../../visitor/space/pieces'
import type { Value } from '../../visitor/space/pieces'
import { z } from 'zod'
import { isDate } from '../../calendar'
import { isObject, reference } from '../../shapes'
import { compare, comparison } from './comparison'
import { leaf } from './leaf'

const facts: Dimension<Map<string, Set<Value>>> = {
  start: () => new Map(),
  pieces: (noted, space) =>
    [...noted].map(([name, values]) => {
      const known = space.holdings.facts.get(name)
      const pieces = pieceValues(known?.type, [...values], known?.choices)
      if (!pieces) space.undecidable = true
      return orOneOf(pieces ?? [], (visitor, value) => ({
        ...visitor,
        facts: { ...visitor.facts, [name]: value },
      }))
    }),
}

export const fact = leaf(z.strictObject({ name: reference, ...comparison }), {
  looksAt: 'person',
  held: true,
  cut: ({ name, is, in: list = [], atLeast, atMost }, space) => {
    // How texts come after one another is no piece of theirs.
    if ([atLeast, atMost].some(one => typeof one === 'string' && !isDate(one))) space.undecidable = true
    const noted = space.on(facts)
    const values = [is, ...list, atLeast, atMost].filter(one => one !== undefined)
    noted.set(name, new Set([...(noted.get(name) ?? []), ...values]))
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
