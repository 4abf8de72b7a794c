/** Reads which entry an address names. */
import { getRouterParam } from 'h3'
import type { H3Event } from 'h3'
import { z } from 'zod'
import { entryKinds } from '../../../core/rulebook/rulebook'
import type { EntryKind } from '../../../core/rulebook/rulebook'
import { Problem } from '../../problem'

export const expected = z.strictObject({ id: z.int(), revision: z.int() }).nullable()

export function entryPlace(event: H3Event): { kind: EntryKind; key: string } {
  const kind = getRouterParam(event, 'kind') ?? ''
  if (!Object.hasOwn(entryKinds, kind)) throw new Problem('not-found', `There is no kind of entry “${kind}”.`)
  return { kind: kind as EntryKind, key: getRouterParam(event, 'key', { decode: true }) ?? '' }
}
