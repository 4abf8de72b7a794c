/** Pages, made of blocks. */
import { z } from 'zod'
import { headPicture, id, language, path, picture, summary, title } from './server-kind'
import type { ServerKind } from './server-kind'

export const page = {
  input: z.strictObject({ title, path, parent: id.optional(), summary: summary.default(''), language, picture }),
  pictures: headPicture,
  takesAlong: ['block'],
} as const satisfies ServerKind
