/** Registers: their fields. Records are counted by the day and kept apart. */
import { z } from 'zod'
import { id, title } from './server-kind'
import type { ServerKind } from './server-kind'

export const register = {
  input: z.strictObject({
    title,
    fields: z.array(z.strictObject({ id, title: z.string().max(200).optional(), type: z.string().max(40) })).optional(),
  }),
} as const satisfies ServerKind
