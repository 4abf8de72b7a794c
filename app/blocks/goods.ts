import { kindNames } from '~~/core/sentences/words'
import type { AppBlock } from './app-block'
import { shownThings, shows } from './shown-things'

export const goods: AppBlock = {
  name: 'goods',
  says: 'Goods with pictures, as far as the visitor may find them, at their price.',
  first: { of: { kind: 'product' } },
  fields: [
    shownThings('Shows', index => [
      shows({ kind: 'product' }, 'all goods'),
      ...[...index.all('category').values()].map(({ id, title = id }) =>
        shows({ category: id }, `the ${kindNames.category} ${title}`),
      ),
      ...[...index.all('product').values()]
        .filter(one => one.of === undefined)
        .slice(0, 500)
        .map(({ id, title = id }) => shows({ products: [id] }, title)),
    ]),
    { key: 'most', label: 'At most', type: 'number', hint: '12' },
  ],
}
