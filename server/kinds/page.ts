/** Pages, made of blocks. */
import { z } from 'zod'
import { thingsIn } from '../../core/kinds/holding'
import type { Page } from '../../core/kinds/page'
import { id, path, summary, title } from './server-kind'
import type { ServerKind } from './server-kind'

export const page = {
  input: z.strictObject({ title, path, parent: id.optional(), summary: summary.default('') }),
  fields: { title: 'title', path: 'address', summary: 'summary', parent: 'place' },
  takesAlong: ['block'],
  opened: async (thing: Page, _, { blocks, list, index }) => ({
    blocks: await blocks('page', thing.id),
    below: await list(thingsIn({ page: thing.id }, index)),
  }),
} as const satisfies ServerKind
