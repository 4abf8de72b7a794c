/** A group whose blocks stand side by side, as many as fit. */
import { z } from 'zod'
import { blockKind } from './block-kind'

export const panels = blockKind({
  body: z.strictObject({}),
  holds: true,
  shown: async ({ title }, { inner }) => ({ kind: 'panels', title, blocks: await inner() }),
})
