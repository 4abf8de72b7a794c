/** Codes made one by one for an offer: many at once, listed, stopped, exported, and noted as used at the counter. */
import { stringify } from 'csv-stringify/sync'
import { and, asc, desc, eq, gt, ilike, inArray, isNull, sql } from 'drizzle-orm'
import { z } from 'zod'
import { foldedCode } from '../../../core/visitor/given-code'
import type { Offer } from '../../../core/rulebook/shop-rules'
import { mayStaff } from '../../../core/staff/staff-rule'
import { harmlessCell } from '../../../core/texts/harmless-cell'
import { clockDate } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { codeBatch, codeUse, person, singleCode } from '../../db/schema'
import { Problem } from '../../problem'
import type { Snapshot } from '../live/snapshot'
import type { Worker } from '../live/worker'
import { draftContents, readState } from '../versions/versions'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { newCode } from '../secrets/tokens'
import { spendCode } from './given-codes'

const request = z.uuid()
export const codesToMake = z.strictObject({
  count: z.int('A whole number.').min(1, 'One at least.').max(10_000, 'At most 10,000 at once.'),
  /** How often each works. */
  most: z.int('A whole number.').min(1, 'Once at least.').max(1000).default(1),
  note: z.string().trim().max(200).default(''),
  request,
})
export const codesToStop = z.union([
  z.strictObject({ codes: z.array(z.int().positive()).min(1).max(1000) }),
  z.strictObject({ batch: z.int().positive() }),
])
export const codeAtCounter = z.strictObject({ code: z.string().trim().min(1, 'A code is needed.').max(200), request })

/** What one offer's code comes to. */
export interface CountedCode {
  offer: string
  /** Kept back for people now; used for good; made one by one, of those shown to somebody, and stopped. */
  kept: number
  used: number
  made: number
  given: number
  stopped: number
  batches: { id: number; note: string; count: number; most: number; madeAt: string; madeBy: string }[]
}

/** Of every offer that ever had uses or codes of its own. */
export async function countCodes(db: AnyDb): Promise<CountedCode[]> {
  const now = clockDate().toISOString()
  const uses = await db.execute<{ offer: string; kept: number; used: number }>(
    sql`select offer, count(*) filter (where used_at is not null)::int used,
      count(*) filter (where used_at is null and person_id is not null and until > ${now}::timestamptz)::int kept
      from code_use group by offer`,
  )
  const made = await db.execute<{ offer: string; made: number; given: number; stopped: number }>(
    sql`select offer, count(*)::int made, count(given_at)::int given, count(stopped_at)::int stopped from single_code group by offer`,
  )
  const batches = await db.select().from(codeBatch).orderBy(desc(codeBatch.id)).limit(1000)
  const offers = new Set([...uses, ...made].map(one => one.offer))
  return [...offers].sort().map(offer => ({
    offer,
    kept: 0,
    used: 0,
    made: 0,
    given: 0,
    stopped: 0,
    ...uses.find(one => one.offer === offer),
    ...made.find(one => one.offer === offer),
    batches: batches
      .filter(one => one.offer === offer)
      .map(({ id, note, count, most, madeAt, madeBy }) => ({
        id,
        note,
        count,
        most,
        madeAt: madeAt.toISOString(),
        madeBy,
      })),
  }))
}

async function offerOfDraft(db: AnyDb, id: string): Promise<Offer> {
  const found = (await draftContents(db, await readState(db))).get('offer', id)
  if (!found?.body) throw new Problem('no-such-offer')
  return found.body as unknown as Offer
}

/** Makes so many for an offer whose codes are made one by one, each beginning with the offer's own. Asked twice under one name, they are made once. */
export async function makeCodes(
  tx: Tx,
  id: string,
  { count, most, note, request }: z.output<typeof codesToMake>,
  actor: Actor,
): Promise<{ batch: number; made: number }> {
  const { code, codes } = await offerOfDraft(tx, id)
  if (code === undefined || codes !== 'single') throw new Problem('offer-without-codes')
  const [batch] = await tx
    .insert(codeBatch)
    .values({ offer: id, note, count, most, madeAt: clockDate(), madeBy: actor.name, request })
    .onConflictDoNothing()
    .returning({ id: codeBatch.id })
  if (!batch) {
    const [known] = await tx.select().from(codeBatch).where(eq(codeBatch.request, request))
    return { batch: known!.id, made: known!.count }
  }
  for (let left = count; left > 0;) {
    const fresh = Array.from({ length: Math.min(left, 2000) }, () => newCode(code))
    const rows = await tx
      .insert(singleCode)
      .values(fresh.map(one => ({ batch: batch.id, offer: id, code: one, folded: foldedCode(one) })))
      .onConflictDoNothing()
      .returning({ id: singleCode.id })
    left -= rows.length
  }
  await leaveTrace(tx, actor, 'codes.make', `offer ${id}`, { count, most, note })
  return { batch: batch.id, made: count }
}

export type CodeState = 'free' | 'given' | 'kept' | 'used' | 'stopped'
export interface ListedCode {
  id: number
  code: string
  batch: number
  state: CodeState
  used: number
  most: number
  /** Whom it was shown to, for those who may look at people. */ person?: { id: string; name: string }
}
const perPage = 100

const stateOf = sql<CodeState>`case
  when single_code.stopped_at is not null then 'stopped'
  when exists (select from code_use u where u.code_id = single_code.id and u.used_at is not null) then 'used'
  when exists (select from code_use u where u.code_id = single_code.id and u.until > now()) then 'kept'
  when single_code.given_at is not null then 'given'
  else 'free' end`
const usedOf = sql<number>`(select count(*)::int from code_use u where u.code_id = single_code.id and u.used_at is not null)`

/** Codes of an offer in the order they were made, a page at a time; `more`: what to ask for next as `after`. */
export async function listCodes(
  db: AnyDb,
  { rights }: Worker,
  offer: string,
  { search = '', batch, after = 0 }: { search?: string | undefined; batch?: number | undefined; after?: number },
): Promise<{ codes: ListedCode[]; more: number | null }> {
  const sought = foldedCode(search).replace(/[\\%_]/g, '\\$&')
  const rows = await db
    .select({
      id: singleCode.id,
      code: singleCode.code,
      batch: singleCode.batch,
      most: codeBatch.most,
      state: stateOf,
      used: usedOf,
      personId: person.id,
      name: person.name,
    })
    .from(singleCode)
    .innerJoin(codeBatch, eq(codeBatch.id, singleCode.batch))
    .leftJoin(person, eq(person.id, singleCode.personId))
    .where(
      and(
        eq(singleCode.offer, offer),
        gt(singleCode.id, after),
        ...(batch === undefined ? [] : [eq(singleCode.batch, batch)]),
        ...(sought ? [ilike(singleCode.folded, `%${sought}%`)] : []),
      ),
    )
    .orderBy(asc(singleCode.id))
    .limit(perPage + 1)
  const names = mayStaff(rights, { kind: 'people', action: 'look' }).allowed
  return {
    codes: rows.slice(0, perPage).map(({ personId, name, ...one }) => ({
      ...one,
      ...(names && personId ? { person: { id: personId, name: name! } } : {}),
    })),
    more: rows.length > perPage ? rows[perPage - 1]!.id : null,
  }
}

/** Codes that work no more; what is kept of them is let go, what was used stays. Answers how many. */
export async function stopCodes(
  tx: Tx,
  offer: string,
  which: z.output<typeof codesToStop>,
  actor: Actor,
): Promise<{ stopped: number }> {
  const stopped = await tx
    .update(singleCode)
    .set({ stoppedAt: clockDate() })
    .where(
      and(
        eq(singleCode.offer, offer),
        isNull(singleCode.stoppedAt),
        'batch' in which ? eq(singleCode.batch, which.batch) : inArray(singleCode.id, which.codes),
      ),
    )
    .returning({ id: singleCode.id })
  if (!stopped.length) throw new Problem('nothing-to-change')
  for (let i = 0; i < stopped.length; i += 5000)
    await tx.delete(codeUse).where(
      and(
        inArray(
          codeUse.codeId,
          stopped.slice(i, i + 5000).map(one => one.id),
        ),
        isNull(codeUse.usedAt),
      ),
    )
  await leaveTrace(tx, actor, 'codes.stop', `offer ${offer}`, { count: stopped.length })
  return { stopped: stopped.length }
}

/** Somebody shows a code at the counter: it is used for good, within its limits. Answers the offer it is for. */
export async function useAtCounter(
  tx: Tx,
  snapshot: Snapshot,
  { code, request }: z.output<typeof codeAtCounter>,
  actor: Actor,
): Promise<{ offer: string }> {
  const offer = await spendCode(tx, snapshot, { typed: code, holder: null, request })
  await leaveTrace(tx, actor, 'codes.use', `offer ${offer}`, {})
  return { offer }
}

/** All codes of an offer as CSV. */
export async function exportCodes(db: AnyDb, offer: string): Promise<string> {
  const columns = ['code', 'state', 'used', 'works', 'made', 'note']
  let file = stringify([columns])
  for (let after = 0; ;) {
    const rows = await db
      .select({
        id: singleCode.id,
        code: singleCode.code,
        state: stateOf,
        used: usedOf,
        most: codeBatch.most,
        madeAt: codeBatch.madeAt,
        note: codeBatch.note,
      })
      .from(singleCode)
      .innerJoin(codeBatch, eq(codeBatch.id, singleCode.batch))
      .where(and(eq(singleCode.offer, offer), gt(singleCode.id, after)))
      .orderBy(asc(singleCode.id))
      .limit(5000)
    if (!rows.length) return file
    file += stringify(
      rows.map(one => [
        harmlessCell(one.code),
        one.state,
        one.used,
        one.most,
        one.madeAt.toISOString(),
        harmlessCell(one.note),
      ]),
    )
    after = rows.at(-1)!.id
  }
}
