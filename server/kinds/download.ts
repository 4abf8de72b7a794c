/** Downloads and their folders: told of here; their bytes come with files. */
import { z } from 'zod'
import { id, path, summary, title, words } from './server-kind'
import type { ServerKind } from './server-kind'

export const folder = {
  input: z.strictObject({ title, parent: id.optional() }),
  fields: { title: 'title', parent: 'folder' },
} as const satisfies ServerKind

export const download = {
  input: z.strictObject({
    title,
    path: path.optional(),
    folder: id.optional(),
    summary: summary.default(''),
    words: words.default(''),
  }),
  fields: {
    passages: 'body',
    broken: 'body',
    title: 'title',
    path: 'address',
    summary: 'summary',
    words: 'body',
    folder: 'folder',
  },
} as const satisfies ServerKind
