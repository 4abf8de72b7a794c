/** The forms by which a level or role can be asked for: which there are, who may fill one in, what pages tell of them. */
import { inTransaction } from '../../db/turn'
import { asc, eq } from 'drizzle-orm'
import { z } from 'zod'
import { levelCalled, roleCalled } from '../../../core/rulebook/public-name'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import type { AnyDb, Tx } from '../../db/database'
import { applicationForm } from '../../db/schema'
import { Problem } from '../../problem'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'
import { draftContents, lockedBook, readState } from '../versions/versions'
import { settingsMoved } from '../versions/notify'

/** What is asked for: `level guild`, `role stockist`. */
export interface Target {
  kind: 'level' | 'role'
  id: string
  name: string
  /** As visitors are told. */
  called: string
  staff: boolean
}

export function targetOf(book: Rulebook, target: string): Target {
  const [kind, id = ''] = target.split(' ')
  const level = kind === 'level' ? book.levels?.find(one => one.id === id) : undefined
  const role = kind === 'role' ? book.roles?.find(one => one.id === id) : undefined
  const found = level ?? role
  const called = level ? levelCalled(level) : role && (roleCalled(role) ?? 'a role')
  if (!found || !called) throw new Problem('no-such-level-or-role')
  return { kind: level ? 'level' : 'role', id, name: found.name ?? id, called, staff: role?.staff === true }
}

/** Of the live rules, or of the draft: a form can stand ready for what is not live yet, and is told of to nobody before. */
async function targetIn(tx: Tx, book: Rulebook, target: string): Promise<Target> {
  const [kind, id] = target.split(' ')
  const isLive = (kind === 'level' ? book.levels : book.roles)?.some(one => one.id === id)
  return targetOf(isLive ? book : (await draftContents(tx, await readState(tx))).book, target)
}

export type Form = typeof applicationForm.$inferSelect
export const formInput = z.strictObject({
  open: z.boolean(),
  intro: z.string().max(2000),
  questions: z.array(z.string().trim().min(1, 'A question says something.').max(300)).max(12),
})

export const listForms = (db: AnyDb) => db.select().from(applicationForm).orderBy(asc(applicationForm.target))

export async function saveForm(
  db: AnyDb,
  target: string,
  input: z.infer<typeof formInput>,
  actor: Actor,
): Promise<void> {
  await inTransaction(db, async tx => {
    const book = await lockedBook(tx)
    const about = await targetIn(tx, book, target)
    if (about.staff && book.settings?.masterKeys?.includes(about.id)) throw new Problem('master-key-applied-for')
    await tx
      .insert(applicationForm)
      .values({ target, ...input })
      .onConflictDoUpdate({ target: applicationForm.target, set: input })
    await settingsMoved(tx)
    await leaveTrace(tx, actor, 'application.form', target, { open: input.open })
  })
}

/** A form somebody may fill in now; staff roles only for who is staff already. */
export async function openForm(
  db: AnyDb,
  book: Rulebook,
  target: string,
  isStaff: boolean,
): Promise<Form & { about: Target }> {
  const about = targetOf(book, target)
  const [form] = await db.select().from(applicationForm).where(eq(applicationForm.target, target))
  if (!form?.open || (about.staff && !isStaff)) throw new Problem('no-applications')
  return { ...form, about }
}

export const openForms = async (db: AnyDb, book: Rulebook, isStaff: boolean) =>
  openAmong(await listForms(db), book, isStaff)

function openAmong(forms: readonly Form[], book: Rulebook, isStaff: boolean): (Form & { about: Target })[] {
  return forms.flatMap(form => {
    try {
      const about = targetOf(book, form.target)
      return form.open && (!about.staff || isStaff) ? [{ ...form, about }] : []
    } catch {
      return []
    }
  })
}

/** What pages tell visitors can be applied for, and where. */
export const formsTold = (forms: readonly Form[], book: Rulebook) =>
  openAmong(forms, book, false).map(({ target, about: { kind, id, called } }) => ({
    path: `/apply/${target.replace(' ', '/')}`,
    about: { kind, id, called },
  }))
