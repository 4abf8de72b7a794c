import type { Dimension } from '../../visitor/space/dimension'
import { subsets } from '../../visitor/space/dimension'
import { withBought } from '../../visitor/visitor'
import { isObject } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'
import { only, productOrCategory } from './shapes'

const goods: Dimension<{ product: Set<string>; category: Set<string> }> = {
  held: true,
  start: () => ({ product: new Set(), category: new Set() }),
  pieces: ({ product, category }, space) => [
    subsets([...product], (visitor, products) => withBought(visitor, { products }), space),
    subsets([...category], (visitor, categories) => withBought(visitor, { categories }), space),
  ],
}

export const bought = leaf(productOrCategory, {
  looksAt: 'person',
  held: true,
  cut: (argument, space) => {
    const [what, id] = only(argument) as ['product' | 'category', string]
    space.on(goods)[what].add(id)
  },
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
