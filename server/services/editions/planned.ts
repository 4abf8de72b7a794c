/** Editions planned for a time: checked again then, and refused as a whole, with the reason, where they no longer fit. */
import { and, asc, desc, eq, lte, sql } from 'drizzle-orm'
import type { StaffRights } from '../../../core/staff/staff-rule'
import { clockDate } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { plannedEdition } from '../../db/schema'
import { sharedClock, sharedNow } from '../../db/shared-clock'
import { afterCommit, inTransaction } from '../../db/turn'
import { ask } from '../../jobs/jobs'
import { Problem } from '../../problem'
import { mailWritten, writeMail } from '../mail/mail'
import { visitorOf } from '../standing/visitor-of'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { openTurn } from './draft'
import { authorisePublication, goLive, publicationOf, refuseUnfit } from './publish'
import { workerOf } from '../live/worker'
import type { Worker } from '../live/worker'

export interface Planned {
  id: number
  at: Date
  note: string
  chosen: string[] | null
  plannedBy: string
  state: string
  edition: number | null
  problem: string | null
}

export async function listPlanned(db: AnyDb): Promise<Planned[]> {
  return db
    .select({
      id: plannedEdition.id,
      at: plannedEdition.at,
      note: plannedEdition.note,
      chosen: plannedEdition.chosen,
      plannedBy: plannedEdition.plannedBy,
      state: plannedEdition.state,
      edition: plannedEdition.edition,
      problem: plannedEdition.problem,
    })
    .from(plannedEdition)
    .where(sql`${plannedEdition.state} in ('waiting', 'refused')`)
    .orderBy(asc(plannedEdition.at), desc(plannedEdition.id))
    .limit(100)
}

/** Plans to publish the draft, or chosen changes of it. Whoever plans must be allowed to publish them now, and then. */
export async function planEdition(
  db: AnyDb,
  worker: Worker,
  { at, note, chosen }: { at: string; note: string; chosen?: string[] | null | undefined },
  actor: Actor,
): Promise<{ id: number }> {
  const when = new Date(at)
  const leftMs = when.getTime() - (await sharedNow(db))
  if (leftMs <= 0) throw new Problem('time-is-past', {}, { at: '/at' })
  // For that very moment; should nobody be there then, within the minute.
  await afterCommit(() => ask('editions', {}, Math.ceil(leftMs / 1000)))
  return inTransaction(db, async tx => {
    const turn = await openTurn(tx, actor)
    const publication = publicationOf(turn, chosen)
    await authorisePublication(worker, turn, publication)
    await refuseUnfit(turn, publication)
    const [row] = await tx
      .insert(plannedEdition)
      .values({ at: when, note, chosen: chosen ?? null, plannedBy: actor.name, plannedById: actor.id })
      .returning({ id: plannedEdition.id })
    await leaveTrace(tx, actor, 'rules.plan', `planned edition ${row!.id}`, { at, note, chosen: chosen ?? null })
    return { id: row!.id }
  })
}

/** Takes a plan back, or away where it was refused. */
export async function withdrawPlan(db: AnyDb, worker: Worker, id: number, actor: Actor): Promise<void> {
  await inTransaction(db, async tx => {
    const [row] = await tx.select().from(plannedEdition).where(eq(plannedEdition.id, id)).for('update')
    if (!row || (row.state !== 'waiting' && row.state !== 'refused')) throw new Problem('not-found')
    if (row.plannedById !== actor.id && !mayPublish(worker.rights)) throw new Problem('not-your-plan')
    await tx.update(plannedEdition).set({ state: 'withdrawn', decidedAt: clockDate() }).where(eq(plannedEdition.id, id))
    await leaveTrace(tx, actor, 'rules.plan-withdraw', `planned edition ${id}`)
  })
}

const mayPublish = ({ masterKey, rules }: StaffRights) =>
  masterKey || rules.some(rule => rule.kind === 'gates' && rule.actions.includes('publish'))

/** Publishes what is due, one after the other. Run by one server at a time; a plan is decided once. Returns how many were published. */
export async function publishDue(db: AnyDb): Promise<number> {
  let published = 0
  for (;;) {
    const due = await decideNext(db)
    if (due === null) return published
    if (due) published++
  }
}

/** True where one was published, false where it was refused, null where none is due. */
async function decideNext(db: AnyDb): Promise<boolean | null> {
  const [due] = await db
    .select({ id: plannedEdition.id })
    .from(plannedEdition)
    // By the one clock all servers share: the fastest of theirs would be early for everybody.
    .where(and(eq(plannedEdition.state, 'waiting'), lte(plannedEdition.at, sharedClock())))
    .orderBy(asc(plannedEdition.at), asc(plannedEdition.id))
    .limit(1)
  if (!due) return null
  try {
    return await inTransaction(db, tx => carryOut(tx, due.id))
  } catch (error) {
    // What the database could not do is tried again; what does not fit is told.
    if (!(error instanceof Problem) || error.statusCode >= 500) throw error
    await refuse(db, due.id, error)
    return false
  }
}

async function carryOut(tx: Tx, id: number): Promise<boolean> {
  const turn = await openTurn(tx, { id: null, name: '' })
  const [row] = await tx.select().from(plannedEdition).where(eq(plannedEdition.id, id)).for('update')
  if (row?.state !== 'waiting') return false
  const actor = { id: row.plannedById, name: row.plannedBy }
  const worker = await workerOf(tx, row.plannedById)
  if (!worker) throw new Problem('planner-gone', { planner: row.plannedBy })
  const own = { ...turn, actor }
  const publication = publicationOf(own, row.chosen)
  await authorisePublication(worker, own, publication)
  await refuseUnfit(own, publication)
  const number = await goLive(own, publication, row.note)
  await tx
    .update(plannedEdition)
    .set({ state: 'published', edition: number, decidedAt: clockDate() })
    .where(eq(plannedEdition.id, id))
  return true
}

/** Nothing is published; its owner is told by mail, and everybody in the console. */
async function refuse(db: AnyDb, id: number, problem: Problem): Promise<void> {
  const mail = await inTransaction(db, async tx => {
    const [row] = await tx.select().from(plannedEdition).where(eq(plannedEdition.id, id)).for('update')
    if (row?.state !== 'waiting') return []
    await tx
      .update(plannedEdition)
      .set({ state: 'refused', problem: problem.message, decidedAt: clockDate() })
      .where(eq(plannedEdition.id, id))
    const actor = { id: row.plannedById, name: row.plannedBy }
    await leaveTrace(tx, actor, 'rules.plan-refused', `planned edition ${id}`, { problem: problem.message })
    const owner = row.plannedById && (await visitorOf(tx, row.plannedById))
    const to = owner && owner.person?.email
    const values = { name: row.plannedBy, note: row.note || '(no note)', problem: problem.message }
    return to ? [await writeMail(tx, { text: 'planned-refused', to, values })] : []
  })
  await mailWritten(...mail)
}
