/** Whose basket a request is about: a person's, in the database; a guest's, in their browser. */
import { deleteCookie, getCookie, setCookie } from 'h3'
import type { H3Event } from 'h3'
import { db } from '../db/database'
import { isSecure } from '../forwarded'
import type { Caller } from '../request'
import { basketOf, changeBasket } from '../services/orders/baskets'
import { basketCookie, basketFromCookie, basketToCookie } from '../services/orders/guest-basket'
import type { KeptLine } from '../services/orders/lines'
import type { TillHolder } from '../services/orders/tills'
import { hashOf, newToken } from '../services/secrets/tokens'
import { guestCookie, guestTokenOf } from '../services/shop/guest-codes'
import type { OwnAsk } from './own-page'

type Asking = Pick<OwnAsk, 'event' | 'caller'>

/** What was changed by this very request is in no cookie of it yet. */
export const guestLines = (event: H3Event): KeptLine[] =>
  (event.context.guestLines as KeptLine[] | undefined) ?? basketFromCookie(getCookie(event, basketCookie))

export const linesOf = async ({ event, caller }: Asking): Promise<KeptLine[]> =>
  caller.signedIn ? basketOf(db(), caller.signedIn.personId) : guestLines(event)

const days = 30
export function keepGuestLines(event: H3Event, lines: readonly KeptLine[]): void {
  event.context.guestLines = lines
  if (!lines.length) deleteCookie(event, basketCookie, { path: '/' })
  else
    setCookie(event, basketCookie, basketToCookie(lines), {
      httpOnly: true,
      sameSite: 'lax',
      path: '/',
      maxAge: days * 86_400,
      secure: isSecure(event),
    })
}

/** Answers what lies in it then. */
export async function changeLines(
  { event, caller }: Asking,
  change: (lines: KeptLine[]) => KeptLine[],
): Promise<KeptLine[]> {
  if (caller.signedIn) return changeBasket(db(), caller.signedIn.personId, change)
  const after = change(guestLines(event))
  keepGuestLines(event, after)
  return after
}

/** Null for a guest who was never told apart from others. */
export function holderOf(event: H3Event, { signedIn }: Pick<Caller, 'signedIn'>): TillHolder | null {
  if (signedIn) return { person: signedIn.personId }
  const token = guestTokenOf(event)
  return token ? { guest: hashOf(token) } : null
}

const tokenSeconds = 24 * 3600
/** The same; a guest is told apart from now on. */
export function holderFor(event: H3Event, caller: Pick<Caller, 'signedIn'>): TillHolder {
  const known = holderOf(event, caller)
  if (known) return known
  const token = newToken()
  setCookie(event, guestCookie, token, {
    httpOnly: true,
    sameSite: 'lax',
    path: '/',
    maxAge: tokenSeconds,
    secure: isSecure(event),
  })
  return { guest: hashOf(token) }
}
