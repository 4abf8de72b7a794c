/** Goods. What is in store of one and what it costs is counted by the day, apart. */
import { z } from 'zod'
import { weavePatterns } from '../../core/kinds/weave-patterns'
import { id, path, summary, title, words } from './server-kind'
import type { ServerKind } from './server-kind'

export const product = {
  input: z.strictObject({
    title,
    path: path.optional(),
    of: id.optional(),
    categories: z.array(id).max(50).optional(),
    price: z.int().min(0).max(100_000_000).optional(),
    summary: summary.default(''),
    words: words.default(''),
    picture: z.enum(weavePatterns).default('plain'),
  }),
  fields: {
    passages: 'summary',
    broken: 'summary',
    title: 'title',
    path: 'address',
    summary: 'summary',
    words: 'summary',
    picture: 'pictures',
    categories: 'categories',
    of: 'categories',
    price: { kind: 'prices' },
  },
} as const satisfies ServerKind
