import { isObject, reference } from '../../shapes'
import { kinds } from '../../kinds/kinds'
import type { Kind } from '../../kinds/kinds'
import { triOf } from '../../tri'
import { leaf } from './leaf'
import { oneOf, only } from './shapes'

/** Asks whether another thing opens: looks at what its gates look at. */
export const opens = leaf(
  oneOf<Partial<Record<Kind, string>>>(Object.fromEntries(kinds.map(kind => [kind, reference]))),
  {
    looksAt: null,
    test: (argument, asking) => {
      const [kind, id] = only(argument)
      return triOf(asking.opens(kind as Kind, id))
    },
    references: (argument, at, check) => {
      if (!isObject(argument)) return
      for (const kind of kinds) check.among(argument[kind], [...at, kind], { kind })
    },
  },
)
