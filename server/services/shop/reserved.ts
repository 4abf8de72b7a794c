/** Goods put aside for somebody, and what became of the count of a product: looked at and done by whoever may see to stock. */
import { and, asc, desc, eq, gt, isNull, lte, or, sql } from 'drizzle-orm'
import { z } from 'zod'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { AnyDb, Tx } from '../../db/database'
import { firm, person, stock, stockMove, stockReserved } from '../../db/schema'
import { clockDate, clockMs } from '../../clock'
import { Problem } from '../../problem'
import { authoriseOwned, ownersOfThing } from '../editions/thing-rights'
import type { Worker } from '../live/worker'
import { draftContents, readState } from '../versions/versions'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

export const toReserve = z
  .strictObject({
    pieces: z.int('Whole pieces only.').min(1, 'One piece at least.').max(1_000_000),
    person: z.string().max(80).optional(),
    firm: z.string().max(80).optional(),
    note: z.string().trim().max(200).default(''),
    /** The moment they are free again; left out, they stay put aside until they are let go. */
    until: z.iso.datetime().optional(),
    /** Names what is asked for: asked twice, it is put aside once. */
    request: z.uuid(),
  })
  .refine(one => one.person === undefined || one.firm === undefined, 'For a person or for a firm.')
export type ToReserve = z.input<typeof toReserve>

export interface StockTold {
  pieces: number
  /** Put aside now; what is free is the rest, below nothing where less is there than was put aside. */
  reserved: number
  free: number
  holds: {
    id: number
    pieces: number
    for: { kind: 'person' | 'firm'; id: string; name: string } | null
    note: string
    until: string | null
    madeBy: string
    madeAt: string
  }[]
  moves: { at: string; before: number; after: number; who: string; how: string }[]
}

/** What is put aside without end, or until later than now. */
export const stillKept = () => or(isNull(stockReserved.until), gt(stockReserved.until, clockDate()))

/** Pieces put aside now, by product. */
export async function reservedOf(db: AnyDb, product?: string): Promise<ReadonlyMap<string, number>> {
  const rows = await db
    .select({ product: stockReserved.product, pieces: sql<number>`sum(${stockReserved.pieces})::int` })
    .from(stockReserved)
    .where(and(stillKept(), product === undefined ? undefined : eq(stockReserved.product, product)))
    .groupBy(stockReserved.product)
  return new Map(rows.map(row => [row.product, row.pieces]))
}

/** What of one product is there, put aside for whom, and how it came to be. People are named to those who may look at them. */
export async function stockOf(db: AnyDb, { rights }: Worker, product: string): Promise<StockTold> {
  if (!(await draftContents(db, await readState(db))).get('product', product)) throw new Problem('no-such-product')
  const [row] = await db.select().from(stock).where(eq(stock.product, product))
  const holds = await db
    .select({ hold: stockReserved, person: person.name, firm: firm.name })
    .from(stockReserved)
    .leftJoin(person, eq(person.id, stockReserved.personId))
    .leftJoin(firm, eq(firm.id, stockReserved.firmId))
    .where(and(eq(stockReserved.product, product), stillKept()))
    .orderBy(asc(stockReserved.id))
  const moves = await db
    .select()
    .from(stockMove)
    .where(eq(stockMove.product, product))
    .orderBy(desc(stockMove.id))
    .limit(100)
  const [pieces, reserved] = [row?.pieces ?? 0, holds.reduce((sum, { hold }) => sum + hold.pieces, 0)]
  const looks = (kind: 'people' | 'firms') => mayStaff(rights, { kind, action: 'look' }).allowed
  const whom = ({ hold, person: who, firm: house }: (typeof holds)[number]) =>
    hold.personId !== null && looks('people')
      ? { kind: 'person' as const, id: hold.personId, name: who ?? '' }
      : hold.firmId !== null && looks('firms')
        ? { kind: 'firm' as const, id: hold.firmId, name: house ?? '' }
        : null
  return {
    pieces,
    reserved,
    free: pieces - reserved,
    holds: holds.map(one => ({
      id: one.hold.id,
      pieces: one.hold.pieces,
      for: whom(one),
      note: one.hold.note,
      until: one.hold.until?.toISOString() ?? null,
      madeBy: one.hold.madeBy,
      madeAt: one.hold.madeAt.toISOString(),
    })),
    moves: moves.map(({ at, before, after, who, how }) => ({ at: at.toISOString(), before, after, who, how })),
  }
}

/** Puts pieces aside that are free; the count is locked, so two who take the last get one. Throws `not-enough-free`. */
export async function reserve(
  tx: Tx,
  worker: Worker,
  product: string,
  { pieces, person: who, firm: house, note, until, request }: z.output<typeof toReserve>,
  actor: Actor,
): Promise<void> {
  if (!(await draftContents(tx, await readState(tx))).get('product', product)) throw new Problem('no-such-product')
  await authoriseOwned(tx, worker, { kind: 'stock', action: 'change' }, await ownersOfThing(tx, 'product', product))
  if (until !== undefined && until <= clockDate().toISOString()) throw new Problem('end-is-past', {}, { at: '/until' })
  if (who !== undefined && !(await tx.$count(person, eq(person.id, who)))) throw new Problem('no-such-person')
  if (house !== undefined && !(await tx.$count(firm, eq(firm.id, house)))) throw new Problem('no-such-firm')
  await tx.insert(stock).values({ product }).onConflictDoNothing()
  const [row] = await tx.select().from(stock).where(eq(stock.product, product)).for('update')
  if (await tx.$count(stockReserved, eq(stockReserved.request, request))) return
  const free = row!.pieces - ((await reservedOf(tx, product)).get(product) ?? 0)
  if (pieces > free) throw new Problem('not-enough-free', { free: Math.max(0, free) }, { at: '/pieces' })
  await tx.insert(stockReserved).values({
    product,
    pieces,
    personId: who ?? null,
    firmId: house ?? null,
    note,
    until: until === undefined ? null : new Date(until),
    madeAt: clockDate(),
    madeBy: actor.name,
    request,
  })
  await leaveTrace(tx, actor, 'product.reserve', `product ${product}`, { pieces })
}

/** What was put aside is free again. */
export async function letGo(tx: Tx, worker: Worker, product: string, id: number, actor: Actor): Promise<void> {
  await authoriseOwned(tx, worker, { kind: 'stock', action: 'change' }, await ownersOfThing(tx, 'product', product))
  const [gone] = await tx
    .delete(stockReserved)
    .where(and(eq(stockReserved.id, id), eq(stockReserved.product, product)))
    .returning()
  if (!gone) throw new Problem('not-found')
  await leaveTrace(tx, actor, 'product.let-go', `product ${product}`, { pieces: gone.pieces })
}

/** Milliseconds for which it is known that something was kept at a till: longer than any bound looks back. */
const rememberedMs = 4 * 3_600_000
/** What was put aside until a moment that is over, thrown away. */
export async function dropOldReserved(db: AnyDb | Tx): Promise<void> {
  const now = clockMs()
  await db
    .delete(stockReserved)
    .where(
      or(
        lte(stockReserved.until, new Date(now - rememberedMs)),
        and(isNull(stockReserved.keeper), lte(stockReserved.until, new Date(now))),
      ),
    )
}
