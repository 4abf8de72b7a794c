import { categoriesOf } from '../../kinds/product'
import type { Dimension } from '../../visitor/space/dimension'
import { subsets } from '../../visitor/space/dimension'
import type { Visitor } from '../../visitor/visitor'
import { isObject } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'
import { only, productOrCategory } from './shapes'

/** Products that are named, and one for each mix of the categories that are. */
const baskets: Dimension<{ product: Set<string>; category: Set<string> }> = {
  start: () => ({ product: new Set(), category: new Set() }),
  pieces: ({ product: products, category }, space) => {
    if (!products.size && !category.size) return []
    const { index } = space.holdings
    const categories = [...category]
    const mixes = new Map<string, string>()
    for (const one of index.all('product').values()) {
      const lies = new Set(categoriesOf(one, index).flatMap(id => index.lineage('category', id)))
      const named = products.has(one.id) || (one.of !== undefined && products.has(one.of))
      const mix = `${named ? `${one.of ?? one.id}` : ''} ${categories.filter(id => lies.has(id)).join(' ')}`
      if (mix !== ' ' && !mixes.has(mix)) mixes.set(mix, one.id)
    }
    const holding = (visitor: Visitor, chosen: string[]): Visitor => ({
      ...visitor,
      basket: chosen.map(product => ({ product, quantity: 1 })),
    })
    return [subsets([...mixes.values()], holding, space)]
  },
}

export const basket = leaf(productOrCategory, {
  looksAt: 'basket',
  cut: (argument, space) => {
    const [what, id] = only(argument) as ['product' | 'category', string]
    space.on(baskets)[what].add(id)
  },
  ways: null,
  test: (argument, { asker }) => {
    const [what, id] = only(argument)
    return triOf(asker.basketHolds(what as 'product', id))
  },
  references: (argument, at, check) => {
    if (!isObject(argument)) return
    for (const kind of ['product', 'category']) check.among(argument[kind], [...at, kind], { kind })
  },
})
