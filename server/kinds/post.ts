/** Posts and the topics they are filed under. */
import { z } from 'zod'
import { headPicture, id, language, path, picture, summary, title, words } from './server-kind'
import type { ServerKind } from './server-kind'

export const topic = {
  input: z.strictObject({ title }),
} as const satisfies ServerKind

export const post = {
  input: z.strictObject({
    title,
    path,
    topics: z.array(id).max(50).optional(),
    summary: summary.default(''),
    words: words.default(''),
    date: z.iso.date('A day such as 2026-11-24.').optional(),
    author: z.string().trim().max(120).optional(),
    language,
    picture,
  }),
  pictures: headPicture,
  takesAlong: ['block'],
} as const satisfies ServerKind
