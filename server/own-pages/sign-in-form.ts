/** Signing in over HTTP, for the form and for scripts alike. */
import { deleteCookie, getCookie, getHeader, setCookie } from 'h3'
import type { H3Event } from 'h3'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { db } from '../db/database'
import { clockMs } from '../clock'
import { isSecure, networkOf } from '../forwarded'
import { visitorOver } from '../request/facts'
import { problemOf } from '../problem'
import { record, tierOf } from '../services/activity/activity'
import { settled } from '../services/facts/settled'
import { landingPlace } from '../services/pages/landing-place'
import {
  knownCookie,
  knownMark,
  sessionCookie,
  sessionDays,
  signedInBy,
  signIn,
  signOut,
} from '../services/entrance/sessions'
import { strangerOf } from '../services/entrance/stranger'
import { hashOf } from '../services/secrets/tokens'
import { bringAlong } from './come-in'
import { bringCodes } from '../services/shop/given-codes'
import { guestCookie, guestTokenOf } from '../services/shop/guest-codes'
import { snapshot } from '../services/live/snapshot'

export function setSessionCookie(event: H3Event, token: string, email?: string): void {
  const secure = isSecure(event)
  setCookie(event, sessionCookie, token, {
    httpOnly: true,
    sameSite: 'lax',
    path: '/',
    maxAge: sessionDays * 86_400,
    secure,
  })
  if (email)
    setCookie(event, knownCookie, knownMark(email), {
      httpOnly: true,
      sameSite: 'lax',
      path: '/',
      maxAge: 365 * 86_400,
      secure,
    })
}

/** What a session remembers about the browser it was made in. */
export const browserOf = (event: H3Event) => ({
  agent: getHeader(event, 'user-agent') ?? '',
  network: networkOf(event),
})

/** Signs in, sets the cookie, and answers who it is and where they go. Throws `wrong-sign-in`. */
export async function signInOver(event: H3Event, input: { email: string; password: string; back?: string }) {
  const { token, personId } = await signIn(db(), {
    email: input.email,
    password: input.password,
    ...browserOf(event),
    known: getCookie(event, knownCookie),
  }).catch((error: unknown) => {
    // Whose address it was is nobody's business before the password fits.
    record({ kind: 'signInFailed', personId: null, tier: 'guest', detail: { why: problemOf(error)?.code ?? 'fault' } })
    throw error
  })
  const before = getCookie(event, sessionCookie)
  if (before) await signOut(db(), before)
  setSessionCookie(event, token, input.email)
  await bringAlong(event, personId)
  const guest = guestTokenOf(event)
  if (guest) {
    await bringCodes(db(), await snapshot(), hashOf(guest), personId)
    deleteCookie(event, guestCookie, { path: '/' })
  }
  const signedIn = await signedInBy(db(), token)
  const decider = await deciderOf(event, signedIn?.visitor ?? { person: null })
  if (!strangerOf(event))
    record({ kind: 'signIn', personId: signedIn!.personId, tier: tierOf(decider.asker, decider.rules.rulebook) })
  return {
    person: { id: signedIn!.personId, name: signedIn!.visitor.person?.name ?? '' },
    to: (await settled(decider, async one => landingPlace(one, 'signIn', input.back))).result,
  }
}

/** Ends the session of this browser; answers where its person goes. */
export async function signOutOver(event: H3Event): Promise<string> {
  const token = getCookie(event, sessionCookie)
  const leaving = token ? await signedInBy(db(), token) : null
  if (token) await signOut(db(), token)
  deleteCookie(event, sessionCookie, { path: '/' })
  const decider = await deciderOf(event, leaving?.visitor ?? { person: null })
  return (await settled(decider, async one => landingPlace(one, 'signOut'))).result
}

async function deciderOf(event: H3Event, visitor: ConstructorParameters<typeof CompiledDecider>[1]) {
  const nowMs = clockMs()
  const { rules } = await snapshot()
  return new CompiledDecider(rules, visitorOver(event, rules.rulebook, visitor), nowMs)
}
