/** From a stranger to somebody who can sign in: sign-up, confirming, approval, invitations, passwords. */
import { lockOne } from '../../db/locks'
import { inTransaction } from '../../db/turn'
import { and, eq, isNull, lt, sql } from 'drizzle-orm'
import { z } from 'zod'
import type { SignUpForm } from '../../../core/view/view'
import type { Fact, Level } from '../../../core/rulebook/people-rules'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { fitsType } from '../../../core/visitor/fact-type'
import { heldUntil } from '../../../core/memberships/membership-span'
import { endOf } from '../../../core/memberships/quote'
import { oneLine } from '../../../core/texts/control-characters'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { firm, membership, person, roleGrant } from '../../db/schema'
import { Problem } from '../../problem'
import { word } from '../../../core/site-words/site-words'
import type { Word } from '../../../core/site-words/site-words'
import { mailWritten, siteAddress, writeMail } from '../mail/mail'
import { brokenLink, credentialLinks, dropLinks, makeLink, peekLink, useLink } from '../secrets/one-time-links'
import { hashPassword, passwordFits } from '../secrets/passwords'
import { endSessions, startSession } from './sessions'
import { confirmsByMail } from '../settings/settings'
import type { SiteSettings } from '../settings/settings'
import { newId } from '../secrets/tokens'
import { joinFirmAs } from '../standing/firm-members'
import { isVisitorLevel, isVisitorRole, knownLevel, knownRole } from '../standing/holdings'
import { lockedBook } from '../versions/versions'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

/** How long it may be; how easily guessed is asked of `password-strength`. */
export const password = z.string().min(10, 'A password has ten characters or more.').max(1000)
export const personName = z
  .string()
  .max(1000)
  .transform(oneLine)
  .pipe(z.string().trim().min(1, 'A name is needed.').max(200))
export const emailAddress = z.string().trim().max(320).pipe(z.email('This is not an e-mail address.'))

export interface SignUpWorld {
  book: Rulebook
  settings: SiteSettings
  timezone: string
}
export type FactValues = Record<string, string | number | boolean>

/** The profile facts sign-up asks for, with what the rules say about each. */
export function askedFacts({
  book,
  settings,
}: Pick<SignUpWorld, 'book' | 'settings'>): (Fact & { required: boolean })[] {
  return settings['sign-up'].facts.flatMap(({ fact, required }) =>
    (book.facts ?? []).filter(one => one.id === fact && !one.from).map(one => ({ ...one, required })),
  )
}

/** What the form for signing up asks. */
export const signUpForm = (world: Pick<SignUpWorld, 'book' | 'settings'>): SignUpForm => ({
  mode: world.settings['sign-up'].mode,
  facts: askedFacts(world).map(({ id, name, type, choices, required }) => ({
    id,
    name: name ?? id,
    type,
    choices: choices ?? [],
    required,
  })),
})

/** Reads facts from a form's texts. An empty field is an absent fact; what does not fit its type is told at the field. */
export function readFacts(
  facts: readonly (Fact & { required?: boolean })[],
  form: Record<string, string | undefined>,
): { values: FactValues; problems: Record<string, Word> } {
  const values: FactValues = {}
  const problems: Record<string, Word> = {}
  for (const fact of facts) {
    const typed = (form[`fact-${fact.id}`] ?? '').trim()
    const name = fact.name ?? fact.id
    if (fact.type === 'flag') {
      values[fact.id] = typed === 'on' || typed === 'yes'
      continue
    }
    if (!typed) {
      if (fact.required) problems[`fact-${fact.id}`] = word('wrong.fact-needed', { name })
      continue
    }
    const value = fact.type === 'number' ? Number(typed) : typed
    const fits =
      fitsType(value, fact.type) &&
      (fact.type !== 'number' || Number.isFinite(value)) &&
      (fact.type !== 'choice' || fact.choices?.includes(typed))
    if (fits) values[fact.id] = value
    else
      problems[`fact-${fact.id}`] =
        fact.type === 'number'
          ? word('wrong.fact-number', { name })
          : fact.type === 'date'
            ? word('wrong.fact-date', { name })
            : word('wrong.fact-choice', { name, choices: fact.choices?.join(', ') ?? '' })
  }
  return { values, problems }
}

export interface SignUpInput {
  name: string
  email: string
  password: string
  facts: FactValues
  invitation?: string
}
export type SignUpAnswer = 'look-in-mail' | 'waiting' | 'can-sign-in'

export const brokenInvitation = () => new Problem('invitation-used')

/**
 * Takes a sign-up. Whether the address is known shows only in a mail to its
 * owner: the answer, and the work behind it, are the same either way.
 */
export async function signUp(
  db: AnyDb,
  world: SignUpWorld,
  input: SignUpInput,
): Promise<{ answer: SignUpAnswer; /** The new person, when there is one. */ personId?: string }> {
  const { mode, approveByHand } = world.settings['sign-up']
  const confirms = confirmsByMail(world.settings)
  if (mode === 'closed' || (mode === 'invitation' && !input.invitation)) throw new Problem('sign-up-closed')
  if (input.invitation && !(await peekLink(db, input.invitation, 'invite'))) throw brokenInvitation()
  const passwordHash = await hashPassword(input.password)
  const mails: number[] = []
  const answer: SignUpAnswer = input.invitation
    ? approveByHand
      ? 'waiting'
      : 'can-sign-in'
    : confirms
      ? 'look-in-mail'
      : approveByHand
        ? 'waiting'
        : 'can-sign-in'
  const personId = await inTransaction(db, async tx => {
    const invitation = input.invitation ? await useLink(tx, input.invitation, 'invite') : null
    const email = invitation ? String(invitation.data.email) : input.email
    // Two sign-ups with one address at once: the second waits here and then finds the first.
    await lockOne(tx, 'signUp', email.toLowerCase())
    const [known] = await tx
      .select()
      .from(person)
      .where(eq(sql`lower(${person.email})`, email.toLowerCase()))
    if (known?.confirmedAt) {
      const link = `${siteAddress()}/reset?token=${await makeLink(tx, { purpose: 'reset', personId: known.id, data: {} })}`
      mails.push(await writeMail(tx, { text: 'known-address', to: known.email, values: { name: known.name, link } }))
      return undefined
    }
    const id = known?.id ?? newId('p')
    const values = { name: input.name, email, passwordHash, facts: input.facts, createdAt: clockDate() }
    // An invitation was mailed to the address.
    const proven = { provenAt: invitation ? clockDate() : null }
    if (known)
      await tx
        .update(person)
        .set({ ...values, ...proven })
        .where(eq(person.id, id))
    else await tx.insert(person).values({ id, ...values, ...proven })
    await leaveTrace(tx, { id, name: input.name }, 'person.sign-up', `person ${id}`)
    if (invitation) {
      const given = invitation.data as { levels?: string[]; roles?: string[]; firm?: string }
      await giveInvited(tx, id, given, String(invitation.data.by ?? 'invitation'))
      mails.push(...(await confirmed(tx, world, id)))
    } else if (confirms) {
      const link = `${siteAddress()}/confirm?token=${await makeLink(tx, { purpose: 'confirm', personId: id, data: {} })}`
      mails.push(await writeMail(tx, { text: 'confirm', to: email, values: { name: input.name, link } }))
    } else mails.push(...(await confirmed(tx, world, id)))
    return id
  })
  await mailWritten(...mails)
  return { answer, ...(personId ? { personId } : {}) }
}

/** What the invitation promised, as far as the rules still give it this way: asked of the live edition, which nobody publishes over meanwhile. */
async function giveInvited(
  tx: Tx,
  personId: string,
  given: { levels?: string[]; roles?: string[]; firm?: string },
  by: string,
): Promise<void> {
  const book = await lockedBook(tx)
  const since = clockDate()
  for (const level of given.levels ?? [])
    if (isVisitorLevel(book, level))
      await tx.insert(membership).values({ personId, level, since, grantedBy: by, source: 'staff' })
  for (const role of given.roles ?? [])
    if (isVisitorRole(book, role))
      await tx.insert(roleGrant).values({ personId, role, grantedBy: by }).onConflictDoNothing()
  if (given.firm && (await tx.select({ id: firm.id }).from(firm).where(eq(firm.id, given.firm)).for('update')).length)
    await joinFirmAs(tx, given.firm, personId)
}

/** The address is theirs: on to the queue, or in. Answers the mails written. */
async function confirmed(tx: Tx, world: SignUpWorld, personId: string): Promise<number[]> {
  const [who] = await tx.update(person).set({ confirmedAt: clockDate() }).where(eq(person.id, personId)).returning()
  if (world.settings['sign-up'].approveByHand)
    return [await writeMail(tx, { text: 'waiting', to: who!.email, values: { name: who!.name } })]
  return admit(tx, world, personId)
}

/** Approved: from now on they can sign in, with the level and roles everybody starts with. */
async function admit(tx: Tx, world: SignUpWorld, personId: string): Promise<number[]> {
  const [who] = await tx
    .update(person)
    .set({ approvedAt: clockDate(), declinedAt: null })
    .where(eq(person.id, personId))
    .returning()
  await giveStart(tx, world, personId)
  return [
    await writeMail(tx, {
      text: 'welcome',
      to: who!.email,
      values: { name: who!.name, link: `${siteAddress()}/sign-in` },
    }),
  ]
}

/** The levels a new person starts with: the one the settings name, else those the rules give on sign-up. */
function startLevels({ book, settings }: Pick<SignUpWorld, 'book' | 'settings'>): Level[] {
  const { startLevel } = settings['sign-up']
  return (book.levels ?? []).filter(level => (startLevel ? level.id === startLevel : level.onSignUp))
}

async function giveStart(tx: Tx, world: SignUpWorld, personId: string): Promise<void> {
  const since = clockDate()
  for (const level of startLevels(world)) {
    const end = level.term ? endOf(level, since.getTime(), world.timezone) : null
    await tx.insert(membership).values({
      personId,
      level: level.id,
      since,
      until: end === null ? null : new Date(heldUntil({ paidUntil: end, renews: false, graceDays: 0 })!),
      grantedBy: 'sign-up',
      source: 'signUp',
    })
  }
  const book = await lockedBook(tx)
  for (const role of world.settings['sign-up'].startRoles) {
    // A staff role is never handed out by a setting.
    if (isVisitorRole(book, role))
      await tx.insert(roleGrant).values({ personId, role, grantedBy: 'sign-up' }).onConflictDoNothing()
  }
}

/** Confirms an address. The password chosen at sign-up is asked again: who only has the mailbox did not sign up. */
export async function confirmAddress(
  db: AnyDb,
  world: SignUpWorld,
  input: { token: string; password: string },
  from: { agent?: string; network?: string },
): Promise<{ waiting: true } | { session: string; personId: string }> {
  const link = await peekLink(db, input.token, 'confirm')
  const [who] = link?.personId ? await db.select().from(person).where(eq(person.id, link.personId)) : []
  if (!who) throw new Problem('confirmation-used')
  if (!(await passwordFits(input.password, who.passwordHash))) throw new Problem('not-sign-up-password')
  const mails: number[] = []
  const result = await inTransaction(db, async tx => {
    await useLink(tx, input.token, 'confirm')
    await tx.update(person).set({ provenAt: clockDate() }).where(eq(person.id, who.id))
    mails.push(...(await confirmed(tx, world, who.id)))
    await leaveTrace(tx, who, 'person.confirm', `person ${who.id}`)
    return world.settings['sign-up'].approveByHand
      ? { waiting: true as const }
      : { session: await startSession(tx, who.id, from), personId: who.id }
  })
  await mailWritten(...mails)
  return result
}

/** Takes people out of the queue: in, or declined with words. */
export async function decideSignUp(
  db: AnyDb,
  world: SignUpWorld,
  personId: string,
  /** `roles`: visitor roles they are given with it. */
  decision: { approve: true; roles?: readonly string[] } | { approve: false; words: string },
  actor: Actor,
): Promise<void> {
  const mails: number[] = []
  await inTransaction(db, async tx => {
    const [who] = await tx.select().from(person).where(eq(person.id, personId)).for('update')
    if (!who) throw new Problem('no-such-person')
    if (who.approvedAt || who.declinedAt || !who.confirmedAt) throw new Problem('sign-up-decided')
    const roles = decision.approve ? [...new Set(decision.roles ?? [])] : []
    if (decision.approve) {
      const book = roles.length ? await lockedBook(tx) : world.book
      // A staff role is handed out by name, and by nothing else.
      for (const role of roles)
        if (knownRole(book, role).staff) throw new Problem('staff-role-on-sign-up', {}, { at: '/roles' })
      mails.push(...(await admit(tx, world, personId)))
      for (const role of roles)
        await tx.insert(roleGrant).values({ personId, role, grantedBy: actor.name }).onConflictDoNothing()
    } else {
      await tx.update(person).set({ declinedAt: clockDate() }).where(eq(person.id, personId))
      mails.push(
        await writeMail(tx, { text: 'declined', to: who.email, values: { name: who.name, words: decision.words } }),
      )
    }
    const given = roles.length ? { roles } : undefined
    await leaveTrace(tx, actor, decision.approve ? 'person.approve' : 'person.decline', `person ${personId}`, given)
  })
  await mailWritten(...mails)
}

/** Mails a way to another password, if the address is known; the caller answers the same either way. */
export async function askReset(db: AnyDb, email: string): Promise<void> {
  const [who] = await db
    .select()
    .from(person)
    .where(
      and(
        eq(sql`lower(${person.email})`, email.trim().toLowerCase()),
        isNull(person.suspendedAt),
        isNull(person.declinedAt),
      ),
    )
  if (!who) return
  const id = await inTransaction(db, async tx => {
    const link = `${siteAddress()}/reset?token=${await makeLink(tx, { purpose: 'reset', personId: who.id, data: {} })}`
    return writeMail(tx, { text: 'reset', to: who.email, values: { name: who.name, link } })
  })
  await mailWritten(id)
}

/** Sets another password by a mailed link, which also proves the address; every session ends. */
export async function resetPassword(
  db: AnyDb,
  world: SignUpWorld,
  input: { token: string; password: string },
): Promise<void> {
  // Looked at first: hashing is slow, and anybody can send tokens that are none.
  if (!(await peekLink(db, input.token, 'reset'))) throw brokenLink()
  const passwordHash = await hashPassword(input.password)
  const mails: number[] = []
  await inTransaction(db, async tx => {
    const { personId } = await useLink(tx, input.token, 'reset')
    const [who] = await tx
      .select()
      .from(person)
      .where(eq(person.id, personId ?? ''))
    if (!who) throw brokenLink()
    await tx.update(person).set({ passwordHash, provenAt: clockDate() }).where(eq(person.id, who.id))
    await endSessions(tx, who.id, { allBut: null })
    await dropLinks(tx, who.id, credentialLinks)
    if (!who.confirmedAt) mails.push(...(await confirmed(tx, world, who.id)))
    else
      mails.push(
        await writeMail(tx, {
          text: 'password-changed',
          to: who.email,
          values: { name: who.name, link: `${siteAddress()}/forgot` },
        }),
      )
    await leaveTrace(tx, who, 'person.reset-password', `person ${who.id}`)
  })
  await mailWritten(...mails)
}

export interface Invitation {
  email: string
  levels: string[]
  roles: string[]
  firm?: string
}

export async function invite(db: AnyDb, input: Invitation, actor: Actor): Promise<void> {
  const id = await inTransaction(db, async tx => {
    const book = await lockedBook(tx)
    for (const role of input.roles)
      if (knownRole(book, role).staff) throw new Problem('staff-role-on-sign-up', {}, { at: '/roles' })
    for (const level of input.levels) knownLevel(book, level, '/levels')
    if (input.firm && !(await tx.select({ id: firm.id }).from(firm).where(eq(firm.id, input.firm))).length)
      throw new Problem('unknown-firm', { firm: input.firm }, { at: '/firm' })
    const token = await makeLink(tx, {
      purpose: 'invite',
      personId: null,
      data: { ...input, by: actor.name, byId: actor.id },
    })
    await leaveTrace(tx, actor, 'person.invite', 'invitation', { levels: input.levels, roles: input.roles })
    return writeMail(tx, {
      text: 'invite',
      to: input.email,
      values: { by: actor.name, link: `${siteAddress()}/sign-up?invitation=${token}` },
    })
  })
  await mailWritten(id)
}

/** People who signed up and never confirmed are forgotten after a month. */
export async function forgetUnconfirmed(db: AnyDb): Promise<void> {
  await db
    .delete(person)
    .where(and(isNull(person.confirmedAt), lt(person.createdAt, new Date(clockMs() - 30 * 86_400_000))))
}
