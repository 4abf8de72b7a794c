/**
 * One action of the console: the right that opens it, what it is given, and the work. From these
 * declarations come the handlers, the table of rights, the addresses the application answers, and
 * the client the screens call by.
 */
import { getQuery, getRouterParams, setResponseHeader, setResponseStatus } from 'h3'
import type { H3Event } from 'h3'
import type { z } from 'zod'
import type { StaffAction, StaffKindId } from '../../core/staff/staff-kinds'
import { mayStaff } from '../../core/staff/staff-rule'
import type { StaffAsk, StaffRights } from '../../core/staff/staff-rule'
import { db } from '../db/database'
import type { AnyDb, Database, Tx } from '../db/database'
import { inOneTurn, isTraced } from '../db/turn'
import { parseWith } from '../parse-with'
import { Problem } from '../problem'
import { readJson } from '../request/body'
import { staffCaller, staffCallerIn } from '../request/staff-caller'
import type { StaffCaller } from '../request/staff-caller'
import { authorise } from '../services/staff/authorise'
import { leaveTrace } from '../trace'

/**
 * `staff`: any staff role will do, and the answer holds only what its rights cover. A list means one
 * of them opens the door, and the work asks for exactly what the request is about.
 */
export type ActionRight = 'staff' | StaffAsk | StaffAsk[]

export interface Ask<I, D extends AnyDb = AnyDb> extends StaffCaller {
  event: H3Event
  /** The transaction of a change; else lines to the database. */
  db: D
  /** Of the address, decoded. */
  params: Record<string, string>
  input: I
}

type Schema = z.ZodType | undefined
type Read<S extends Schema> = S extends z.ZodType ? z.output<S> : undefined

interface Declared<S extends Schema, O, D extends AnyDb> {
  right: ActionRight
  /** Of the body in JSON; of a `GET`, of the query. Left out, nothing is read. */
  input?: S
  /** Bytes the body may have. Default: as any other. */
  most?: number
  /** What may take its time, done before the transaction begins: it holds up nobody. */
  ahead?(input: Read<S>, params: Record<string, string>): Promise<void>
  run(ask: Ask<Read<S>, D>): O | Promise<O>
}
/** How the work is done: looking changes nothing; one turn is one transaction; `own` is for work in several. */
type Turns = 'none' | 'one' | 'own'

export interface Action<S extends Schema = Schema, O = unknown> extends Declared<S, O, never> {
  turns: Turns
}

/** An action that changes nothing. */
export const look = <O, S extends Schema = undefined>(declared: Declared<S, O, Database>): Action<S, O> => ({
  ...declared,
  turns: 'none',
})

/**
 * An action that changes something: `ask.db` is one transaction, and the rights are those the person has
 * inside it. Rights that depend on what is given, or on the row it is about, are asked in the work, of the
 * row once nobody else can change it. If the work leaves no trace of its own, the action leaves one.
 */
export const change = <O, S extends Schema = undefined>(declared: Declared<S, O, Tx>): Action<S, O> => ({
  ...declared,
  turns: 'one',
})

/** An action whose work needs several transactions, such as one that counts tries even where it fails. Each sees to its own rights and trace. */
export const steps = <O, S extends Schema = undefined>(declared: Declared<S, O, Database>): Action<S, O> => ({
  ...declared,
  turns: 'own',
})

export const on = (kind: StaffKindId, action: StaffAction, fields?: string[]): StaffAsk => ({
  kind,
  action,
  ...(fields ? { fields } : {}),
})
export const oneOf = (kinds: readonly StaffKindId[], ...actions: StaffAction[]): StaffAsk[] =>
  kinds.flatMap(kind => actions.map(action => on(kind, action)))

/** Throws `not-allowed` unless these rights open the action. */
function authoriseAction(rights: StaffRights, right: ActionRight): void {
  if (right === 'staff') return
  if (!Array.isArray(right)) return authorise(rights, right)
  if (right.some(ask => mayStaff(rights, ask).allowed)) return
  throw new Problem('one-right-missing', { anyOf: right.map(({ kind, action }) => ({ kind, action })) })
}

/** Answers one request: nothing of it is kept by anybody. An answer of nothing is 204, a made thing 201. */
export async function answer(
  event: H3Event,
  name: string,
  { right, input, most, turns, ahead, run }: Action,
): Promise<unknown> {
  setResponseHeader(event, 'cache-control', 'private, no-store')
  event.context.action = name.replace(' ', ' /api/loft/')
  const caller = await staffCaller(event, name)
  authoriseAction(caller.rights, right)
  const given = !input
    ? undefined
    : event.method === 'GET'
      ? parseWith(input, getQuery(event))
      : await readJson(event, input, most)
  const params = getRouterParams(event, { decode: true }) as Record<string, string>
  const asked = { event, params, input: given as never }
  await ahead?.(given as never, params)
  const answered =
    turns === 'one'
      ? await inOneTurn(db(), async tx => {
          const now = await staffCallerIn(tx, event)
          authoriseAction(now.rights, right)
          const done = await run({ ...now, ...asked, db: tx as never })
          // It would be allowed. The transaction ends with this, and nothing of it stays.
          if (now.onlyAs !== undefined) throw new Problem('only-looked')
          if (!isTraced()) await leaveTrace(tx, now.actor, 'staff.ask', name, params)
          return done
        })
      : await runAlone(turns, caller, () => run({ ...caller, ...asked, db: db() as never }))
  if (answered === undefined) {
    setResponseStatus(event, 204)
    return null
  }
  return answered
}

/** Work of several transactions cannot be tried and taken back. */
function runAlone<T>(turns: Turns, { onlyAs }: StaffCaller, work: () => T): T {
  if (turns === 'own' && onlyAs !== undefined) throw new Problem('only-looked')
  return work()
}

/** What was made, for a status of 201. */
export function made<T>({ event }: Pick<Ask<unknown>, 'event'>, what: T): T {
  setResponseStatus(event, 201)
  return what
}
