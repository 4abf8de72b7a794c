/** A group whose blocks stand side by side: as many as fit, and at most as many as is said for each width. */
import { z } from 'zod'
import { blockKind } from './block-kind'

const count = z.int().min(1).max(6).optional()

export const panels = blockKind({
  body: z.strictObject({ screen: count, tablet: count, phone: count }),
  holds: true,
  shown: async ({ title, body }, { inner }) => ({
    kind: 'panels',
    title,
    blocks: await inner(),
    ...(Object.keys(body).length ? { most: body } : {}),
  }),
})
