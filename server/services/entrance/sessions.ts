/** Signing in and out, the browsers a person is signed in at, and who a request belongs to. */
import { and, desc, eq, gt, lt, sql } from 'drizzle-orm'
import type { Visitor } from '../../../core/visitor/visitor'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { person, session } from '../../db/schema'
import { Problem } from '../../problem'
import { passwordFits } from '../secrets/passwords'
import { countTry, forgetTries } from '../secrets/throttle'
import type { Limit } from '../secrets/throttle'
import { hashOf, isSignature, newToken, signature } from '../secrets/tokens'
import { leaveTrace } from '../../trace'
import { rememberedSession, sessionInMind } from '../standing/known-sessions'
import { mayComeIn, visitorColumns, visitorFrom } from '../standing/visitor-of'

export const sessionCookie = 'bravik_session'
/** Tells a browser its person signed in at before, so that a stranger's guesses do not lock them out. */
export const knownCookie = 'bravik_known'
export const sessionDays = 30

/** Somebody who is signed in. `sessionId` names the session without giving it away. */
export interface SignedIn {
  sessionId: string
  personId: string
  visitor: Visitor
}

export interface SignInTry {
  email: string
  password: string
  network: string
  agent?: string
  /** What `knownCookie` holds. */ known?: string | undefined
}

const windowMs = 10 * 60_000

const isKnown = ({ email, known }: SignInTry) =>
  known !== undefined && isSignature('known', email.trim().toLowerCase(), known)

/**
 * A browser that signed in as this address before has tries of its own, whatever goes on at its address or
 * in its network; everybody else shares the address's and the network's.
 */
function limitsOf(asked: SignInTry): Limit[] {
  const address = asked.email.trim().toLowerCase()
  if (isKnown(asked)) return [{ what: 'signInKnown', of: `${asked.known} ${address}`, most: 10, windowMs }]
  return [
    { what: 'signIn', of: address, most: 10, windowMs },
    { what: 'signInFrom', of: asked.network, most: 100, windowMs },
  ]
}

export const knownMark = (email: string) => signature('known', email.trim().toLowerCase())

/** Checks address and password and starts a session; the token goes into the cookie. The same answer for every way to be wrong. */
export async function signIn(db: AnyDb, asked: SignInTry): Promise<{ token: string; personId: string }> {
  const limits = limitsOf(asked)
  await countTry(db, limits, 'sign-in')
  const [found] = await db
    .select()
    .from(person)
    .where(eq(sql`lower(${person.email})`, asked.email.trim().toLowerCase()))
  const fits = await passwordFits(asked.password, found?.passwordHash, isKnown(asked))
  if (!found || !fits) throw new Problem('wrong-sign-in')
  // Only who knows the password hears how things stand with the account.
  if (!found.confirmedAt) throw new Problem('not-confirmed')
  if (found.declinedAt || found.suspendedAt) throw new Problem('suspended')
  if (!found.approvedAt) throw new Problem('waiting')
  await forgetTries(db, [limits[0]!])
  const token = await startSession(db, found.id, asked)
  await leaveTrace(db, found, 'session.start', `person ${found.id}`)
  return { token, personId: found.id }
}

export async function startSession(
  db: Pick<Tx, 'insert'>,
  personId: string,
  from: { agent?: string; network?: string } = {},
): Promise<string> {
  const token = newToken()
  await db.insert(session).values({
    tokenHash: hashOf(token),
    personId,
    createdAt: clockDate(),
    seenAt: clockDate(),
    expiresAt: new Date(clockMs() + sessionDays * 86_400_000),
    agent: (from.agent ?? '').slice(0, 300),
    network: from.network ?? '',
  })
  return token
}

export async function signOut(db: AnyDb, token: string): Promise<void> {
  await db.delete(session).where(eq(session.tokenHash, hashOf(token)))
}

/** Ends one session by its id, or all but one. */
export async function endSessions(
  db: AnyDb,
  personId: string,
  which: { id: string } | { allBut: string | null },
): Promise<number> {
  const named = (id: string) => sql`left(${session.tokenHash}, 24) = ${id}`
  const chosen = 'id' in which ? named(which.id) : which.allBut === null ? undefined : sql`not (${named(which.allBut)})`
  return (
    await db
      .delete(session)
      .where(and(eq(session.personId, personId), chosen))
      .returning({ hash: session.tokenHash })
  ).length
}

export interface OpenSession {
  id: string
  createdAt: Date
  seenAt: Date
  agent: string
  network: string
}

export async function sessionsOf(db: AnyDb, personId: string): Promise<OpenSession[]> {
  const rows = await db
    .select()
    .from(session)
    .where(and(eq(session.personId, personId), gt(session.expiresAt, clockDate())))
    .orderBy(desc(session.seenAt))
  return rows.map(row => ({
    id: row.tokenHash.slice(0, 24),
    createdAt: row.createdAt,
    seenAt: row.seenAt,
    agent: row.agent,
    network: row.network,
  }))
}

/** Who holds this token now, with what they hold; null when nobody does any more. One query at most. */
export async function signedInBy(db: AnyDb, token: string): Promise<SignedIn | null> {
  return stillIn(db, token, await rememberedSession(token, () => sessionOf(db, token)))
}

/** The same at once, of somebody who was here a moment ago; undefined where it takes a question. */
export function signedInNow(db: AnyDb, token: string): SignedIn | null | undefined {
  const found = sessionInMind(token)
  return found && stillIn(db, token, found as Session)
}

function stillIn(db: AnyDb, token: string, found: Session | null): SignedIn | null {
  if (!found || found.expiresAt.getTime() <= clockMs()) return null
  if (clockMs() - found.seenAt.getTime() > 5 * 60_000) {
    found.seenAt = clockDate()
    db.update(session)
      .set({ seenAt: found.seenAt })
      .where(eq(session.tokenHash, hashOf(token)))
      .catch(() => {})
  }
  return found
}

interface Session extends SignedIn {
  seenAt: Date
  expiresAt: Date
}

/** The same as it is in the database, without noting that they were seen. */
export async function sessionOf(tx: AnyDb, token: string): Promise<Session | null> {
  const tokenHash = hashOf(token)
  const [row] = await tx
    .select({ ...visitorColumns, seenAt: session.seenAt, expiresAt: session.expiresAt })
    .from(session)
    .innerJoin(person, eq(session.personId, person.id))
    .where(and(eq(session.tokenHash, tokenHash), gt(session.expiresAt, clockDate()), mayComeIn))
  if (!row) return null
  const { seenAt, expiresAt } = row
  return { sessionId: tokenHash.slice(0, 24), personId: row.id, visitor: visitorFrom(row), seenAt, expiresAt }
}

export async function dropOldSessions(db: AnyDb): Promise<void> {
  await db.delete(session).where(lt(session.expiresAt, clockDate()))
}
