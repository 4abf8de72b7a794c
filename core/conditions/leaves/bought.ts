import { isObject } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'
import { only, productOrCategory } from './shapes'

export const bought = leaf(productOrCategory, {
  looksAt: 'person',
  held: true,
  cut: (argument, space) => space.bought(...(only(argument) as ['product', string])),
  test: (argument, { asker }) => {
    const [what, id] = only(argument)
    return triOf(asker.hasBought(what as 'product', id))
  },
  ways: (argument, { wanted }) => (wanted ? [[argument]] : []),
  references: (argument, at, check) => {
    if (!isObject(argument)) return
    for (const kind of ['product', 'category']) check.among(argument[kind], [...at, kind], { kind })
  },
})
