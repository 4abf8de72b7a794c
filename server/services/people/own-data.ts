/** All that is kept about one person, as they may take it along (GDPR, articles 15 and 20). */
import { asc, eq, inArray, sql } from 'drizzle-orm'
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

type MayFind = (kind: string, id: string) => boolean

/** For themselves. `mayFind` tells what of the site they find now. */
export async function ownData(db: AnyDb, personId: string, mayFind: MayFind): Promise<Record<string, unknown>> {
  const { memberships: _memberships, ...who } = await listedPerson(db, personId)
  const [facts] = await db.select({ facts: person.facts }).from(person).where(eq(person.id, personId))
  return {
    person: who,
    facts: facts?.facts ?? {},
    memberships: await db
      .select({
        level: membership.level,
        since: membership.since,
        until: membership.until,
        source: membership.source,
        paidUntil: membership.paidUntil,
        paidAmount: membership.paidAmount,
        endedBy: membership.endedBy,
      })
      .from(membership)
      .where(eq(membership.personId, personId))
      .orderBy(asc(membership.since)),
    purchases: await db
      .select({
        reference: purchase.reference,
        level: purchase.level,
        amount: purchase.amount,
        credit: purchase.credit,
        state: purchase.state,
        createdAt: purchase.createdAt,
      })
      .from(purchase)
      .where(eq(purchase.personId, personId))
      .orderBy(asc(purchase.createdAt)),
    orders: await ordersOf(db, personId),
    basket: await db
      .select({ product: basketLine.product, quantity: basketLine.quantity })
      .from(basketLine)
      .where(eq(basketLine.personId, personId))
      .orderBy(asc(basketLine.addedAt)),
    codes: await db
      .select({
        offer: codeUse.offer,
        code: codeUse.word,
        takenAt: codeUse.takenAt,
        until: codeUse.until,
        usedAt: codeUse.usedAt,
      })
      .from(codeUse)
      .where(eq(codeUse.personId, personId))
      .orderBy(asc(codeUse.id)),
    applications: await db
      .select({
        target: application.target,
        answers: application.answers,
        state: application.state,
        words: application.words,
        createdAt: application.createdAt,
      })
      .from(application)
      .where(eq(application.personId, personId))
      .orderBy(asc(application.id)),
    sessions: await db
      .select({
        createdAt: session.createdAt,
        seenAt: session.seenAt,
        agent: session.agent,
        network: session.network,
      })
      .from(session)
      .where(eq(session.personId, personId))
      .orderBy(asc(session.createdAt)),
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
    note: frozen.note,
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
