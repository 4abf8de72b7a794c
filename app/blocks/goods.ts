import { kindNames } from '~~/core/sentences/words'
import type { AppBlock } from './app-block'

export const goods: AppBlock = {
  name: 'goods',
  says: 'Goods with pictures, as far as the visitor may find them, at their price.',
  first: { of: { kind: 'product' } },
  fields: [
    {
      key: 'of',
      label: 'Shows',
      type: 'choice',
      options: index => [
        { value: JSON.stringify({ kind: 'product' }), label: 'all goods' },
        ...[...index.all('category').values()].map(({ id, title = id }) => ({
          value: JSON.stringify({ category: id }),
          label: `the ${kindNames.category} ${title}`,
        })),
        ...[...index.all('product').values()]
          .filter(one => one.of === undefined)
          .slice(0, 500)
          .map(({ id, title = id }) => ({ value: JSON.stringify({ products: [id] }), label: title })),
      ],
      write: JSON.parse,
      read: JSON.stringify,
    },
    { key: 'most', label: 'At most', type: 'number', hint: '12' },
  ],
}
