/** Reads a value by its schema, or says where it does not fit. */
import type { z } from 'zod'
import { pointer } from '../core/pointer'
import { Problem } from './problem'

/** Throws `bad-input` with every place that does not fit. */
export function parseWith<S extends z.ZodType>(schema: S, value: unknown): z.infer<S> {
  const result = schema.safeParse(value)
  if (result.success) return result.data
  const issues = result.error.issues.map(issue => ({
    at: pointer(issue.path as (string | number)[]),
    message: issue.message,
  }))
  throw new Problem('does-not-fit', { issues }, { issues })
}
