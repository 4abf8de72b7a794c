/** Pages, made of blocks. */
import { z } from 'zod'
import { id, path, summary, title } from './server-kind'
import type { ServerKind } from './server-kind'

export const page = {
  input: z.strictObject({ title, path, parent: id.optional(), summary: summary.default('') }),
  fields: { title: 'title', path: 'address', summary: 'summary', parent: 'place' },
  takesAlong: ['block'],
} as const satisfies ServerKind
