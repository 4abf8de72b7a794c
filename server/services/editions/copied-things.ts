/** Copies of things, with all that stands in them and the gates on them. */
import type { Gate } from '../../../core/rulebook/gate'
import { rightsForParts } from '../../../core/staff/part-rights'
import { z } from 'zod'
import type { AnyDb } from '../../db/database'
import { thing as thingTable } from '../../db/schema'
import { id as idShape } from '../../kinds/server-kind'
import { places } from '../../kinds/block'
import { staffKindOf } from '../../kinds/kinds'
import type { VersionedThing } from '../../kinds/kinds'
import { Problem } from '../../problem'
import { authorise } from '../staff/authorise'
import type { Actor } from '../../trace'
import { changeDraft } from './draft'
import type { Changed, Put, Turn, Work } from './draft'
import { permitEntry } from './entry-rights'
import { authoriseAddition, permitLook } from './thing-rights'
import type { StoredContents, StoredVersion } from '../versions/versions'
import type { Worker } from '../live/worker'
import { thingIn, withInside, wholeThing, refuseSwitchedOff, parsed, refuseBadNames, putOf } from './things'
import type { Named, ThingInput } from './things'

export const copyInput = z.strictObject({
  id: idShape,
  path: z.string().optional(),
  title: z.string().optional(),
  in: places.optional(),
})

/** Makes a copy of a thing, of all that stands in it, and of the gates on them: what was for some stays for some. */
export const copyThing = (
  db: AnyDb,
  worker: Worker,
  place: Named,
  input: z.infer<typeof copyInput>,
  actor: Actor,
): Promise<Changed> => changeDraft(db, actor, turn => copyWork(turn, worker, place, input))

export async function copyWork(
  turn: Turn,
  worker: Worker,
  { kind, key }: Named,
  input: z.infer<typeof copyInput>,
): Promise<Work> {
  thingIn(turn, { kind, key })
  const copied = withInside(turn.draft, { kind, key })
  const newKeys = new Map<string, string>()
  const fresh = freshNames(turn.draft)
  for (const one of copied)
    newKeys.set(`${one.kind} ${one.key}`, one === copied[0] ? input.id : fresh(one.kind, one.key))
  if (turn.draft.get(kind, input.id) || turn.live.get(kind, input.id))
    throw new Problem('thing-id-taken', { kind, id: input.id }, { at: '/id' })
  const puts: Put[] = []
  for (const one of copied) {
    const as = one.kind as VersionedThing
    const whole = await wholeThing(turn, one)
    authoriseAddition(worker, as, whole)
    await refuseSwitchedOff(turn.tx, as, whole)
    const seen = await permitLook(turn.tx, worker, { kind: as, key: one.key, body: whole })
    // A copy tells all that is in it.
    const unseen = Object.keys(whole).filter(part => !seen(part))
    for (const ask of rightsForParts(as, staffKindOf(as, whole), unseen))
      authorise(worker.rights, { ...ask, action: 'look' })
    const own = one === copied[0] ? { path: undefined, ...without(input, 'id') } : {}
    const copy = await parsed(as, defined({ ...(renamed(whole, newKeys) as ThingInput), ...own }), turn.draft)
    const newKey = newKeys.get(`${one.kind} ${one.key}`)!
    if (one === copied[0]) refuseBadNames(turn.draft, as, newKey, copy)
    puts.push(putOf(as, newKey, copy, one === copied[0] ? undefined : one.position))
    await turn.tx
      .insert(thingTable)
      .values({ kind: as, key: newKey, madeBy: turn.actor.id })
      .onConflictDoUpdate({
        target: [thingTable.kind, thingTable.key],
        set: { madeBy: turn.actor.id, assignedTo: null },
      })
  }
  for (const gate of turn.draft.book.gates ?? []) {
    const [on, id] = Object.entries(gate.on).find(([scope]) => scope !== 'below')!
    const newKey = newKeys.get(`${on} ${String(id)}`)
    if (newKey === undefined) continue
    const entry = { kind: 'gate' as const, key: fresh('gate', gate.id), body: null as unknown }
    const copy = { ...(renamed(gate, newKeys) as Gate), id: entry.key, on: { ...gate.on, [on]: newKey } } as Gate
    await permitEntry(worker.rights)(turn, { ...entry, body: copy })
    puts.push({ kind: 'gate', key: entry.key, body: copy })
  }
  return { puts, action: `${kind}.copy`, subject: `${kind} ${input.id}`, detail: { of: key } }
}

const without = <T extends object, K extends keyof T>(value: T, key: K): Omit<T, K> => {
  const { [key]: _, ...rest } = value
  return rest
}

const defined = (thing: ThingInput): ThingInput =>
  Object.fromEntries(Object.entries(thing).filter(([, value]) => value !== undefined))

/** `{ kind: id }` of what is copied becomes `{ kind: new id }`, wherever it stands. */
function renamed(value: unknown, newKeys: ReadonlyMap<string, string>): unknown {
  if (Array.isArray(value)) return value.map(one => renamed(one, newKeys))
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) => [
      key,
      typeof inner === 'string' ? (newKeys.get(`${key} ${inner}`) ?? inner) : renamed(inner, newKeys),
    ]),
  )
}

/** Ids nobody has yet: the old one with a number behind. */
function freshNames(draft: StoredContents) {
  const given = new Set<string>()
  return (kind: StoredVersion['kind'], key: string): string => {
    const stem = key.slice(0, 70)
    for (let n = 2; ; n++) {
      const name = `${stem}-${n}`
      if (draft.get(kind, name) || given.has(`${kind} ${name}`)) continue
      given.add(`${kind} ${name}`)
      return name
    }
  }
}
