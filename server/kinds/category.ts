/** Categories of goods. */
import { z } from 'zod'
import type { Category } from '../../core/kinds/category'
import { thingsIn } from '../../core/kinds/holding'
import { id, path, summary, title } from './server-kind'
import type { ServerKind } from './server-kind'

export const category = {
  input: z.strictObject({ title, path: path.optional(), parent: id.optional(), summary: summary.default('') }),
  fields: { title: 'title', path: 'address', summary: 'summary', parent: 'place' },
  opened: async (thing: Category, _, { list, index }) => ({
    blocks: [],
    below: await list(thingsIn({ category: thing.id }, index)),
  }),
} as const satisfies ServerKind
