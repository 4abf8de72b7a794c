/** Blocks under one heading and one gate. */
import { z } from 'zod'
import { blockKind } from './block-kind'

export const group = blockKind({
  body: z.strictObject({}),
  holds: true,
  shown: async ({ title }, { inner }) => ({ kind: 'group', title, blocks: await inner() }),
})
