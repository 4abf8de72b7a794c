/** What lies in a topic, a folder or a category, below a page, or everything of a kind, as far as it may be found. */
import { z } from 'zod'
import { thingsIn } from '../site/holding'
import { blockKind, id } from './block-kind'

const listedUnlessSaid = 100

export const list = blockKind({
  body: z.strictObject({
    of: z.union([
      z.strictObject({ topic: id }),
      z.strictObject({ folder: id }),
      z.strictObject({ category: id }),
      z.strictObject({ page: id }),
      z.strictObject({ kind: z.string().max(20) }),
    ]),
    most: z.int().min(1).max(500).optional(),
  }),
  shown: async ({ title, body }, tools) => {
    const things = await tools.list(thingsIn(body.of, tools.index), body.most ?? listedUnlessSaid)
    return things.length ? { kind: 'list', title, things } : []
  },
})
