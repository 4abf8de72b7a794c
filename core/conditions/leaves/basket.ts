import { isObject } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'
import { only, productOrCategory } from './shapes'

export const basket = leaf(productOrCategory, {
  looksAt: 'basket',
  cut: (argument, space) => space.basket(...(only(argument) as ['product', string])),
  test: (argument, { asker }) => {
    const [what, id] = only(argument)
    return triOf(asker.basketHolds(what as 'product', id))
  },
  references: (argument, at, check) => {
    if (!isObject(argument)) return
    for (const kind of ['product', 'category']) check.among(argument[kind], [...at, kind], { kind })
  },
})
