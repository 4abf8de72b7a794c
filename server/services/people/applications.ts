/** Asking for a level or role: what is sent, the queue, the decisions. */
import { inTransaction } from '../../db/turn'
import { asc, desc, eq } from 'drizzle-orm'
import { z } from 'zod'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { clockDate } from '../../clock'
import type { AnyDb } from '../../db/database'
import { application, person, roleGrant } from '../../db/schema'
import { Problem } from '../../problem'
import { mailWritten, siteAddress, writeMail } from '../mail/mail'
import type { Worker } from '../live/worker'
import { lockedBook } from '../versions/versions'
import { openForm, targetOf } from '../forms/forms'
import { authorise } from '../staff/authorise'
import { authoriseStaffRole, powerOf } from '../staff/staff-grants'
import { giveLevel } from './holdings'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

export async function apply(
  db: AnyDb,
  book: Rulebook,
  input: { target: string; answers: string[]; isStaff: boolean },
  who: Actor & { id: string },
): Promise<void> {
  await inTransaction(db, async tx => {
    const { questions } = await openForm(tx, book, input.target, input.isStaff)
    const made = await tx
      .insert(application)
      .values({
        personId: who.id,
        target: input.target,
        answers: questions.map((question, i) => ({ question, answer: input.answers[i] ?? '' })),
        createdAt: clockDate(),
      })
      .onConflictDoNothing()
      .returning({ id: application.id })
    if (!made.length) throw new Problem('applied-already')
    await leaveTrace(tx, who, 'application.send', input.target)
  })
}

export const applicationsOf = (db: AnyDb, personId: string) =>
  db.select().from(application).where(eq(application.personId, personId)).orderBy(desc(application.id))

export async function waitingApplications(db: AnyDb) {
  return db
    .select({
      id: application.id,
      target: application.target,
      answers: application.answers,
      createdAt: application.createdAt,
      person: { id: person.id, name: person.name, email: person.email },
    })
    .from(application)
    .innerJoin(person, eq(person.id, application.personId))
    .where(eq(application.state, 'waiting'))
    .orderBy(asc(application.id))
    .limit(500)
}

export const decisionInput = z.strictObject({
  accept: z.boolean(),
  words: z.string().max(2000).default(''),
  /** For a staff role: its id again. */ confirm: z.string().optional(),
})

export async function decideApplication(
  db: AnyDb,
  { rights, snapshot }: Worker,
  id: number,
  decision: z.infer<typeof decisionInput>,
  actor: Actor,
): Promise<void> {
  const mail = await inTransaction(db, async tx => {
    const book = await lockedBook(tx)
    const [row] = await tx.select().from(application).where(eq(application.id, id)).for('update')
    if (!row) throw new Problem('not-found')
    const about = targetOf(book, row.target)
    authorise(rights, { kind: 'people', action: 'change', fields: [about.kind === 'role' ? 'roles' : 'levels'] })
    if (about.kind === 'role' && decision.accept)
      authoriseStaffRole(rights, { ...powerOf(snapshot), book }, about.id, 'add')
    if (row.state !== 'waiting') throw new Problem('application-decided')
    if (decision.accept && about.staff && decision.confirm !== about.id)
      throw new Problem(
        'name-staff-role',
        { role: about.name },
        {
          at: '/confirm',
        },
      )
    if (decision.accept && about.kind === 'level') await giveLevel(tx, book, [row.personId], { level: about.id }, actor)
    if (decision.accept && about.kind === 'role')
      await tx
        .insert(roleGrant)
        .values({ personId: row.personId, role: about.id, grantedBy: actor.name })
        .onConflictDoNothing()
    await tx
      .update(application)
      .set({
        state: decision.accept ? 'accepted' : 'declined',
        words: decision.words,
        decidedBy: actor.name,
        decidedAt: clockDate(),
      })
      .where(eq(application.id, id))
    const [who] = await tx.select().from(person).where(eq(person.id, row.personId))
    await leaveTrace(tx, actor, decision.accept ? 'application.accept' : 'application.decline', row.target, {
      application: id,
    })
    return writeMail(tx, {
      text: decision.accept ? 'application-accepted' : 'application-declined',
      to: who!.email,
      values: { name: who!.name, what: about.called, words: decision.words, link: `${siteAddress()}/account` },
    })
  })
  await mailWritten(mail)
}
