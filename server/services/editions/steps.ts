/** What somebody does to the draft in one breath, in ordered steps: all of it is one change, or nothing is. */
import { z } from 'zod'
import { pointer } from '../../../core/pointer'
import { isEntryKind } from '../../../core/editions/contents'
import type { Gate } from '../../../core/rulebook/gate'
import type { EntryKind } from '../../../core/rulebook/rulebook'
import type { Tx } from '../../db/database'
import { isServerKind } from '../../kinds/kinds'
import type { VersionedThing } from '../../kinds/kinds'
import { Problem } from '../../problem'
import type { Actor } from '../../trace'
import type { Worker } from '../live/worker'
import { closeTurn, openTurn, positionBefore, putWork } from './draft'
import type { Changed, Put, Turn, Work } from './draft'
import { orderEntry, putEntry, takeOutEntry } from './entries'
import { permitEntry } from './entry-rights'
import { copyInput, copyWork } from './copied-things'
import { addWork, changeWork, moveWork, placeOf, removeWork, withInside } from './things'

export const expected = z.strictObject({ id: z.int(), revision: z.int() }).nullable()
const name = z.string().min(1).max(200)
const thingKind = z
  .string()
  .refine(isServerKind, 'There is no such kind of thing.') as unknown as z.ZodType<VersionedThing>
const entryKind = z.string().refine(isEntryKind, 'There is no such kind of entry.') as unknown as z.ZodType<EntryKind>
/** What it comes before, of those beside it; null: last. */
const before = name.nullable()
const ofThing = { kind: thingKind, key: name }
const ofEntry = { entry: entryKind, key: name }

const step = z.discriminatedUnion('do', [
  z.strictObject({
    do: z.literal('add'),
    kind: thingKind,
    thing: z.record(z.string().max(100), z.unknown()),
    before: before.optional(),
  }),
  z.strictObject({
    do: z.literal('change'),
    ...ofThing,
    parts: z.record(z.string().max(100), z.unknown()),
    expects: expected.optional(),
    before: before.optional(),
  }),
  z.strictObject({ do: z.literal('move'), ...ofThing, before }),
  /** With what stands in it, and with `gates` the gates on all that goes. */
  z.strictObject({
    do: z.literal('remove'),
    ...ofThing,
    expects: expected.optional(),
    gates: z.boolean().default(false),
  }),
  z.strictObject({ do: z.literal('copy'), ...ofThing, as: copyInput, before: before.optional() }),
  /** An entry of the rules, such as a gate; a body of null takes it out. */
  z.strictObject({ do: z.literal('put'), ...ofEntry, body: z.unknown(), expects: expected }),
  z.strictObject({ do: z.literal('order'), ...ofEntry, before }),
])
export type Step = z.output<typeof step>
const mostSteps = 500
export const stepsInput = z.strictObject({ steps: z.array(step).min(1, 'Nothing is to be done.').max(mostSteps) })

type Of<D extends Step['do']> = Extract<Step, { do: D }>
const works: { [D in Step['do']]: (turn: Turn, worker: Worker, step: Of<D>) => Promise<Work> } = {
  add: async (turn, worker, { kind, thing, before }) =>
    putBefore(turn, await addWork(turn, worker, kind, thing), before),
  change: (turn, worker, { kind, key, parts, expects }) => changeWork(turn, worker, { kind, key, expects }, parts),
  move: moveWork,
  async remove(turn, worker, { kind, key, expects, gates }) {
    const going = gates ? gatesOn(turn, { kind, key }) : []
    for (const put of going) await permitEntry(worker.rights)(turn, { kind: 'gate', key: put.key, body: null })
    const work = await removeWork(turn, worker, { kind, key, expects })
    return { ...work, puts: [...going, ...work.puts] }
  },
  copy: async (turn, worker, { kind, key, as, before }) =>
    putBefore(turn, await copyWork(turn, worker, { kind, key }, as), before),
  put(turn, worker, { entry: kind, key, body, expects }) {
    const ask = { kind, key, expects, permit: permitEntry(worker.rights) }
    return body === null ? takeOutEntry(turn, ask) : putEntry(turn, { ...ask, body })
  },
  order: (turn, worker, { entry: kind, key, before }) =>
    orderEntry(turn, { kind, key, before, permit: permitEntry(worker.rights) }),
}

/** Where something new comes to stand; what else is put with it stays where it is. */
function putBefore(turn: Turn, work: Work, before: string | null | undefined): Work {
  if (before === undefined) return work
  const [first, ...others] = work.puts as [Put, ...Put[]]
  const beside = turn.draft.of(first.kind).filter(one => one.key !== first.key && placeOf(one) === placeOf(first))
  const position = positionBefore(beside, before)
  if (position === null) throw new Problem('not-beside', { before }, { at: '/before' })
  return { ...work, puts: [{ ...first, position }, ...others] }
}

/** Gates that stand on a thing, or on what stands in it: they go with it. */
function gatesOn({ draft }: Turn, of: { kind: VersionedThing; key: string }): Put[] {
  const going = new Set(withInside(draft, of).map(one => `${one.kind} ${one.key}`))
  const standsOn = ({ on }: Gate) =>
    Object.entries(on).some(([scope, id]) => scope !== 'below' && going.has(`${scope} ${String(id)}`))
  return (draft.book.gates ?? []).filter(standsOn).map(({ id }) => ({ kind: 'gate', key: id, body: null }))
}

/** Does them in order. What is wrong with one is told with its place among them, and then none is done. */
export async function doSteps(tx: Tx, worker: Worker, steps: readonly Step[], actor: Actor): Promise<Changed> {
  const turn = await openTurn(tx, actor)
  let isRemoval = true
  for (const [at, one] of steps.entries()) {
    const work = works[one.do] as (turn: Turn, worker: Worker, step: Step) => Promise<Work>
    const pieces = [work, ...(one.do === 'change' && one.before !== undefined ? [works.move] : [])] as (typeof work)[]
    for (const piece of pieces) {
      const { removes } = await putWork(turn, now => piece(now, worker, one)).catch((error: unknown) => {
        throw error instanceof Problem ? placed(error, at) : error
      })
      isRemoval &&= removes === true
    }
  }
  return closeTurn(turn, isRemoval)
}

/** Where it stands in what was given, besides where it stands in its step. */
function placed(problem: Problem, at: number): Problem {
  problem.extra.step = pointer(['steps', at])
  return problem
}

/** What somebody wrote in a step: read ahead, since that may take its time. */
export const textsOf = (one: Step): Record<string, unknown> =>
  one.do === 'add' ? one.thing : one.do === 'change' ? one.parts : {}
