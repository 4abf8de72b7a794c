/** Actions on things: what stands on the site, in the draft. */
import { z } from 'zod'
import { thingStaffKinds } from '../../core/staff/thing-kind'
import { isServerKind } from '../kinds/kinds'
import type { VersionedThing } from '../kinds/kinds'
import { Problem } from '../problem'
import { undoChange } from '../services/editions/entries'
import { expected } from '../services/editions/steps'
import { permitThingUndo } from '../services/editions/thing-rights'
import { lookAtThing, lookAtVersions } from '../services/editions/look'
import { savedAnswer } from '../services/editions/saved-answer'
import { readAhead } from '../reading/read-ahead'
import { copyInput, copyThing } from '../services/editions/copied-things'
import { addThing, changeThing, moveThing, removeThing } from '../services/editions/things'
import { change, look, made, oneOf } from './action'
import type { Ask } from './action'

const kinds = [...thingStaffKinds, 'prices'] as const

function place({ params }: Ask<unknown>): { kind: VersionedThing; key: string } {
  const { kind = '', key = '' } = params
  if (!isServerKind(kind)) throw new Problem('no-such-thing-kind', { kind })
  return { kind, key }
}

/** Numbers of rows, with commas between them; a page needs some hundred at once. */
const rows = z
  .string()
  .max(8000)
  .regex(/^\d{1,15}(,\d{1,15}){0,499}$/, 'Up to 500 numbers with commas between them.')
  .transform(text => text.split(',').map(Number))

const given = z.record(z.string().max(100), z.unknown())

export const thingActions = {
  'POST things/:kind': change({
    right: oneOf(kinds, 'add'),
    input: given,
    ahead: readAhead,
    run: async ask => {
      const { kind } = place(ask)
      const changed = await addThing(ask.db, ask, kind, ask.input, ask.actor)
      return made(ask, await savedAnswer(ask, changed))
    },
  }),
  /** Versions of things by their row, in whatever edition: what may be looked at of them. */
  'GET things': look({
    right: oneOf(kinds, 'look'),
    input: z.object({ rows }),
    run: ask => lookAtVersions(ask.db, ask, ask.input.rows),
  }),
  /** A thing whole, as the draft has it, with what stands in it: what may be looked at of it. */
  'GET things/:kind/:key': look({ right: oneOf(kinds, 'look'), run: ask => lookAtThing(ask.db, ask, place(ask)) }),
  'PUT things/:kind/:key': change({
    right: oneOf(kinds, 'change'),
    input: z.looseObject({ expects: expected.optional() }),
    ahead: readAhead,
    run: async ask => {
      const { expects, ...change } = ask.input
      const { kind, key } = place(ask)
      const changed = await changeThing(ask.db, ask, { kind, key, expects }, change, ask.actor)
      return savedAnswer(ask, changed)
    },
  }),
  'DELETE things/:kind/:key': change({
    right: oneOf(kinds, 'withdraw'),
    run: async ask => savedAnswer(ask, await removeThing(ask.db, ask, place(ask), ask.actor)),
  }),
  'POST things/:kind/:key/move': change({
    right: oneOf(kinds, 'change'),
    // Among those beside it; null: last.
    input: z.strictObject({ before: z.string().nullable() }),
    run: async ask => savedAnswer(ask, await moveThing(ask.db, ask, { ...place(ask), ...ask.input }, ask.actor)),
  }),
  /** It is again as it is live. */
  'POST things/:kind/:key/undo': change({
    right: oneOf(kinds, 'change'),
    run: async ask => {
      const at = place(ask)
      return savedAnswer(ask, await undoChange(ask.db, { ...at, actor: ask.actor, permit: permitThingUndo(ask, at) }))
    },
  }),
  'POST things/:kind/:key/copy': change({
    right: oneOf(kinds, 'add'),
    input: copyInput,
    run: async ask => {
      const { kind, key } = place(ask)
      const changed = await copyThing(ask.db, ask, { kind, key }, ask.input, ask.actor)
      return made(ask, await savedAnswer(ask, changed))
    },
  }),
}
