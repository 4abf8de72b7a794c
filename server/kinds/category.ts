/** Categories of goods. */
import { z } from 'zod'
import { headPicture, id, path, picture, summary, title } from './server-kind'
import type { ServerKind } from './server-kind'

export const category = {
  input: z.strictObject({ title, path: path.optional(), parent: id.optional(), summary: summary.default(''), picture }),
  pictures: headPicture,
  takesAlong: ['block'],
} as const satisfies ServerKind
