/** Goods as cards: of a category, of all, or some that are named, as far as they may be found and at the price of whoever looks. */
import { z } from 'zod'
import type { Resource } from '../kinds/kinds'
import { blockKind, id } from './block-kind'

const shownUnlessSaid = 12

export const goods = blockKind({
  body: z.strictObject({
    of: z.union([
      z.strictObject({ category: id }),
      z.strictObject({ products: z.array(id).min(1).max(50) }),
      z.strictObject({ kind: z.literal('product') }),
    ]),
    most: z.int().min(1).max(100).optional(),
  }),
  shown: async ({ title, body: { of, most = shownUnlessSaid } }, tools) => {
    const things = await ('products' in of
      ? tools.goods(
          of.products.map((product): Resource => ({ kind: 'product', id: product })),
          most,
        )
      : tools.goods(tools.onShelf('category' in of ? of.category : undefined), most))
    return things.length ? { kind: 'goods', title, things } : []
  },
})
