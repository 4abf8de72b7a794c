/** A part of the shelf where it stands: its gates travel with it. */
import { z } from 'zod'
import { blockKind } from './block-kind'

export const shared = blockKind({
  body: z.strictObject({}),
  shown: (_, tools) => tools.shared(),
})
