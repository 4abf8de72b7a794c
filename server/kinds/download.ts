/** Downloads, each with a file people fetch, and their folders. */
import { z } from 'zod'
import { file, fileName, id, path, summary, title, words } from './server-kind'
import type { ServerKind } from './server-kind'

export const folder = {
  input: z.strictObject({ title, parent: id.optional() }),
} as const satisfies ServerKind

export const download = {
  input: z.strictObject({
    title,
    path: path.optional(),
    folder: id.optional(),
    summary: summary.default(''),
    words: words.default(''),
    file,
    fileName,
  }),
  files: ({ file: name }) => (typeof name === 'string' ? [{ at: ['file'], name }] : []),
  problem: thing =>
    thing.file === undefined || thing.fileName !== undefined
      ? undefined
      : { at: ['fileName'], message: 'A file has a name people get it by.' },
} as const satisfies ServerKind
