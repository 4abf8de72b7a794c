import { isObject, reference } from '../../shapes'
import { kinds, listedKinds } from '../../kinds/kinds'
import type { Kind } from '../../kinds/kinds'
import { triOf } from '../../tri'
import { leaf } from './leaf'
import { oneOf, only } from './shapes'

/** What can be named: rows, such as records and their fields, are part of no edition. */
const named = kinds.filter(kind => listedKinds.has(kind))

/** Asks whether another thing opens: looks at what its gates look at. */
export const opens = leaf(
  oneOf<Partial<Record<Kind, string>>>(Object.fromEntries(named.map(kind => [kind, reference]))),
  {
    looksAt: null,
    cut: null,
    ways: null,
    test: (argument, asking) => {
      const [kind, id] = only(argument)
      return triOf(asking.opens(kind as Kind, id))
    },
    references: (argument, at, check) => {
      if (!isObject(argument)) return
      for (const kind of named) check.among(argument[kind], [...at, kind], { kind })
    },
  },
)
