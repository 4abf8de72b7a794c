import { orOneOf } from '../../visitor/space/dimension'
import type { Cuts, Dimension } from '../../visitor/space/dimension'
import { withRequest } from '../../visitor/visitor'
import { z } from 'zod'
import { choices, reference } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'

const queries: Dimension<Map<string, Set<string>>> = {
  start: () => new Map(),
  pieces: noted =>
    [...noted].map(([name, values]) =>
      orOneOf([...values, 'another value'], (visitor, value) =>
        withRequest(visitor, { query: { ...visitor.request?.query, [name]: value } }),
      ),
    ),
}

export function noteQuery(space: Cuts, name: string, values: readonly string[] = []): void {
  const noted = space.on(queries)
  noted.set(name, new Set([...(noted.get(name) ?? []), ...values]))
}

export const query = leaf(z.strictObject({ name: reference, in: choices(z.string()).optional() }), {
  looksAt: 'query',
  cut: ({ name, in: list }, space) => noteQuery(space, name, list),
  ways: null,
  test: ({ name, in: list }, { asker }) =>
    triOf(Object.hasOwn(asker.query, name) && (!list || list.includes(asker.query[name]!))),
})
