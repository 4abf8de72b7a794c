/** All that is kept about one person, as they may take it along (GDPR, articles 15 and 20). */
import { asc, eq, inArray, sql } from 'drizzle-orm'
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core'
import type { AnyDb } from '../../db/database'
import {
  application,
  basketLine,
  codeUse,
  membership,
  orderLine,
  person,
  purchase,
  session,
  shopOrder,
} from '../../db/schema'
import { listedPerson } from './people'

type Owned = PgTable & { personId: PgColumn }
type Column<T extends PgTable> = keyof T['_']['columns'] & keyof T & string
type MayFind = (kind: string, id: string) => boolean

/** For themselves. `mayFind` tells what of the site they find now. */
export async function ownData(db: AnyDb, personId: string, mayFind: MayFind): Promise<Record<string, unknown>> {
  const { memberships: _memberships, ...who } = await listedPerson(db, personId)
  const [facts] = await db.select({ facts: person.facts }).from(person).where(eq(person.id, personId))
  /** Of their rows, these columns. */
  const mine = <T extends Owned, K extends Column<T>>(table: T, by: PgColumn, ...columns: K[]) =>
    db
      .select(Object.fromEntries(columns.map(name => [name, table[name] as PgColumn])))
      .from(table as PgTable)
      .where(eq(table.personId, personId))
      .orderBy(asc(by))
  const codes = await mine(codeUse, codeUse.id, 'offer', 'word', 'takenAt', 'until', 'usedAt')
  return {
    person: who,
    facts: facts?.facts ?? {},
    memberships: await mine(
      membership,
      membership.since,
      'level',
      'since',
      'until',
      'source',
      'paidUntil',
      'paidAmount',
      'endedBy',
    ),
    purchases: await mine(purchase, purchase.createdAt, 'reference', 'level', 'amount', 'credit', 'state', 'createdAt'),
    orders: await ordersOf(db, personId),
    basket: await mine(basketLine, basketLine.addedAt, 'product', 'quantity'),
    codes: codes.map(({ word, ...use }) => ({ ...use, code: word })),
    applications: await mine(application, application.id, 'target', 'answers', 'state', 'words', 'createdAt'),
    sessions: await mine(session, session.createdAt, 'createdAt', 'seenAt', 'agent', 'network'),
    activity: await activityOf(db, personId, mayFind),
  }
}

async function ordersOf(db: AnyDb, personId: string) {
  const orders = await db
    .select()
    .from(shopOrder)
    .where(eq(shopOrder.personId, personId))
    .orderBy(asc(shopOrder.number))
  const ids = orders.map(order => order.id)
  const lines = ids.length
    ? await db.select().from(orderLine).where(inArray(orderLine.orderId, ids)).orderBy(asc(orderLine.position))
    : []
  const linesOf = new Map<string, { product: string; quantity: number; gross: number }[]>(ids.map(id => [id, []]))
  for (const { orderId, product, quantity, gross } of lines) linesOf.get(orderId)!.push({ product, quantity, gross })
  return orders.map(({ id, number, state, placedAt, paidAt, name, email, net, tax, gross, refunded, frozen }) => ({
    number,
    state,
    placedAt,
    paidAt,
    name,
    email,
    net,
    tax,
    gross,
    refunded,
    address: frozen.address,
    note: frozen.note ?? null,
    lines: linesOf.get(id)!,
  }))
}

/** What somebody did with a thing of the site is theirs to know; that the thing is there, only while they may find it. */
const aboutThings: ReadonlySet<string> = new Set(['view', 'refused', 'download', 'click'])
async function activityOf(db: AnyDb, personId: string, mayFind: MayFind) {
  // It lies in a table for each month.
  const rows = await db.execute<{ at: string; kind: string; subjectKind: string; subjectId: string }>(
    sql`select at, kind, subject_kind "subjectKind", subject_id "subjectId" from activity where person_id = ${personId} order by at desc limit 10000`,
  )
  return [...rows].filter(
    ({ kind, subjectKind, subjectId }) => !aboutThings.has(kind) || mayFind(subjectKind, subjectId),
  )
}
