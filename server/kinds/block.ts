/** Blocks. What one holds depends on its own kind. */
import { z } from 'zod'
import { condition } from '../../core/conditions/condition'
import { accentLook, standingOf } from '../../core/kinds/block'
import { blockKinds, blockModule } from '../../core/blocks/blocks'
import type { BlockKind } from '../../core/blocks/blocks'
import { id, summary } from './server-kind'
import type { ServerKind } from './server-kind'

export const places = standingOf(
  id,
  'A block stands in one page, post, category, product or block, or in one part of the frame.',
)

export const block = {
  input: z.strictObject({
    in: places,
    kind: z.enum(blockKinds),
    title: z.string().max(200).optional(),
    oneOf: z.boolean().optional(),
    shares: id.optional(),
    summary: summary.default(''),
    accent: z.strictObject({ look: accentLook, for: condition.optional() }).optional(),
    body: z.unknown(),
  }),
  takesAlong: ['block'],
  sort: thing => String(thing.kind),
  holds: thing => blockModule(thing.kind as BlockKind).holds === true,
  pictures: ({ kind, body }) =>
    (blockModule(kind as BlockKind)?.pictures ?? []).flatMap(key => {
      const name = (body as Record<string, unknown> | undefined)?.[key]
      return typeof name === 'string' ? [{ at: ['body', key], name }] : []
    }),
  problem: thing => {
    if ((thing.kind === 'shared') !== (thing.shares !== undefined))
      return { at: ['shares'], message: 'A shared part says which part of the shelf it shows.' }
    const [issue] = blockModule(thing.kind as BlockKind).body.safeParse(thing.body).error?.issues ?? []
    return issue && { at: ['body', ...(issue.path as (string | number)[])], message: issue.message }
  },
} as const satisfies ServerKind
