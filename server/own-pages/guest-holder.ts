/** Who keeps codes and stands at the till: a person, or a guest who is told apart from others by what their browser holds. */
import { setCookie } from 'h3'
import type { H3Event } from 'h3'
import { isSecure } from '../forwarded'
import type { Caller } from '../request/caller'
import { hashOf, newToken } from '../services/secrets/tokens'
import type { Holder } from '../services/shop/given-codes'
import { guestCookie, guestMark, guestTokenOf } from '../services/shop/guest-codes'

/** Null for a guest who was never told apart from others. */
export function holderOf(event: H3Event, { signedIn }: Pick<Caller, 'signedIn'>): Holder | null {
  if (signedIn) return { person: signedIn.personId }
  const token = guestTokenOf(event)
  return token ? { guest: hashOf(token) } : null
}

/** A day: longer than anything is kept for a guest. */
const tokenSeconds = 24 * 3600

/** The same of everybody; `remember` tells a guest apart from now on. */
export function holderFor(event: H3Event, caller: Pick<Caller, 'signedIn'>): { holder: Holder; remember(): void } {
  const known = holderOf(event, caller)
  const token = guestTokenOf(event) ?? newToken()
  const holder = known ?? { guest: hashOf(token) }
  const remember = () => {
    if ('guest' in holder)
      setCookie(event, guestCookie, guestMark(token), {
        httpOnly: true,
        sameSite: 'lax',
        path: '/',
        maxAge: tokenSeconds,
        secure: isSecure(event),
      })
  }
  return { holder, remember }
}
