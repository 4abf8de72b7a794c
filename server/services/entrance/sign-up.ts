/** From a stranger to somebody who can sign in: sign-up, confirming, approval, invitations, passwords. */
import { lockOne } from '../../db/locks'
import { inTransaction } from '../../db/turn'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Condition } from '../../../core/conditions/condition'
import { waitsForStaff } from '../../../core/entrance/newcomer'
import type { CompiledRules } from '../../../core/gates/compiled'
import { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { Visitor } from '../../../core/visitor/visitor'
import type { Level } from '../../../core/rulebook/people-rules'
import { heldUntil } from '../../../core/memberships/membership-span'
import { endOf } from '../../../core/memberships/quote'
import { clockDate } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { firm, membership, person, roleGrant } from '../../db/schema'
import { Problem } from '../../problem'
import { mailWritten, siteAddress, writeMail } from '../mail/mail'
import { brokenLink, credentialLinks, dropLinks, makeLink, peekLink, useLink } from '../secrets/one-time-links'
import { hashPassword, passwordFits } from '../secrets/passwords'
import type { FactValues } from './sign-up-form'
import { endSessions, startSession } from './sessions'
import { confirmsByMail } from '../settings/settings'
import type { SiteSettings } from '../settings/settings'
import { newId } from '../secrets/tokens'
import { joinFirmAs } from '../standing/firm-members'
import { visitorOf } from '../standing/visitor-of'
import { isVisitorLevel, isVisitorRole, knownLevel, knownRole } from '../standing/holdings'
import { lockedBook } from '../versions/versions'
import { leaveTrace } from '../../trace'
import type { Actor } from '../../trace'

export interface SignUpWorld {
  rules: CompiledRules
  settings: SiteSettings
  nowMs: number
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
  const { mode } = world.settings['sign-up']
  const confirms = confirmsByMail(world.settings)
  if (mode === 'closed' || (mode === 'invitation' && !input.invitation)) throw new Problem('sign-up-closed')
  const invited = input.invitation ? await peekLink(db, input.invitation, 'invite') : undefined
  if (input.invitation && !invited) throw brokenInvitation()
  const passwordHash = await hashPassword(input.password)
  const mails: number[] = []
  // By what they bring with them alone: what is known of an address shows in no answer.
  const brought = invited ? givenBy(invited.data) : {}
  const waits = waitsForStaff(world.settings['sign-up'], condition =>
    newcomerAdmits(world, { ...newcomer(brought), facts: input.facts }, condition),
  )
  const answer: SignUpAnswer = confirms && !input.invitation ? 'look-in-mail' : waits ? 'waiting' : 'can-sign-in'
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
      await giveInvited(tx, id, givenBy(invitation.data), String(invitation.data.by ?? 'invitation'))
      mails.push(...(await confirmed(tx, world, id)).mails)
    } else if (confirms) {
      const link = `${siteAddress()}/confirm?token=${await makeLink(tx, { purpose: 'confirm', personId: id, data: {} })}`
      mails.push(await writeMail(tx, { text: 'confirm', to: email, values: { name: input.name, link } }))
    } else mails.push(...(await confirmed(tx, world, id)).mails)
    return id
  })
  await mailWritten(...mails)
  return { answer, ...(personId ? { personId } : {}) }
}

interface Brought {
  levels?: string[]
  roles?: string[]
  firm?: string
}
const givenBy = (data: unknown) => data as Brought

/** Somebody new as rules see them, with what an invitation brings. */
export const newcomer = ({ levels = [], roles = [], firm }: Brought): Visitor => ({
  person: { id: 'somebody-new' },
  levels: levels.map(level => ({ level, since: clockDate().toISOString() })),
  roles,
  ...(firm ? { firm } : {}),
})
const newcomerAdmits = ({ rules, nowMs }: SignUpWorld, who: Visitor, condition: Condition): boolean =>
  new CompiledDecider(rules, who, nowMs).admits(condition)

/** What the invitation promised, as far as the rules still give it this way: asked of the live edition, which nobody publishes over meanwhile. */
async function giveInvited(tx: Tx, personId: string, given: Brought, by: string): Promise<void> {
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
async function confirmed(
  tx: Tx,
  world: SignUpWorld,
  personId: string,
): Promise<{ /** Somebody looks at them first. */ waits: boolean; mails: number[] }> {
  const [who] = await tx.update(person).set({ confirmedAt: clockDate() }).where(eq(person.id, personId)).returning()
  const { 'sign-up': looks } = world.settings
  const visitor = looks.lookAt && !looks.approveByHand ? await visitorOf(tx, personId) : null
  if (waitsForStaff(looks, condition => visitor !== null && newcomerAdmits(world, visitor, condition)))
    return {
      waits: true,
      mails: [await writeMail(tx, { text: 'waiting', to: who!.email, values: { name: who!.name } })],
    }
  return { waits: false, mails: await admit(tx, world, personId) }
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
function startLevels({ rules, settings }: SignUpWorld): Level[] {
  const { startLevel } = settings['sign-up']
  return (rules.rulebook.levels ?? []).filter(level => (startLevel ? level.id === startLevel : level.onSignUp))
}

async function giveStart(tx: Tx, world: SignUpWorld, personId: string): Promise<void> {
  const since = clockDate()
  for (const level of startLevels(world)) {
    const end = level.term ? endOf(level, since.getTime(), world.rules.index.site.timezone) : null
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
    const { waits, mails: written } = await confirmed(tx, world, who.id)
    mails.push(...written)
    await leaveTrace(tx, who, 'person.confirm', `person ${who.id}`)
    return waits ? { waiting: true as const } : { session: await startSession(tx, who.id, from), personId: who.id }
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
      const book = roles.length ? await lockedBook(tx) : world.rules.rulebook
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
    if (!who.confirmedAt) mails.push(...(await confirmed(tx, world, who.id)).mails)
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
