/** Categories of goods. */
import { z } from 'zod'
import { id, path, summary, title } from './server-kind'
import type { ServerKind } from './server-kind'

export const category = {
  input: z.strictObject({ title, path: path.optional(), parent: id.optional(), summary: summary.default('') }),
  fields: { title: 'title', path: 'address', summary: 'summary', parent: 'place' },
} as const satisfies ServerKind
