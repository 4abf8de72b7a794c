/** Who is signed in, and the way out; for others the way in. */
import { z } from 'zod'
import { blockKind } from './block-kind'

export const account = blockKind({
  body: z.strictObject({}),
  shown: (_, { person }) => ({ kind: 'account', person: person() }),
})
