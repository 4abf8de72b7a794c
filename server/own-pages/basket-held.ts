/** Whose basket a request is about: a person's, in the database; a guest's, in their browser. */
import { deleteCookie, getCookie, setCookie } from 'h3'
import type { H3Event } from 'h3'
import { db } from '../db/database'
import { isSecure } from '../forwarded'
import { basketOf, changeBasket } from '../services/orders/baskets'
import { basketCookie, basketFromCookie, basketToCookie } from '../services/orders/guest-basket'
import type { KeptLine } from '../services/orders/lines'
import { keepNoMoreThan } from '../services/orders/held-stock'
import { tillName } from '../services/orders/tills'
import { holderOf } from './guest-holder'
import type { OwnAsk } from './own-page'

declare module 'h3' {
  interface H3EventContext {
    /** What lies in a guest's basket after this request. */
    guestLines?: readonly KeptLine[]
  }
}

type Asking = Pick<OwnAsk, 'event' | 'caller'>

/** What was changed by this very request is in no cookie of it yet. */
export const guestLines = (event: H3Event): readonly KeptLine[] =>
  event.context.guestLines ?? basketFromCookie(getCookie(event, basketCookie))

export const linesOf = async ({ event, caller }: Asking): Promise<readonly KeptLine[]> =>
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
  const after = caller.signedIn
    ? await changeBasket(db(), caller.signedIn.personId, change)
    : change([...guestLines(event)])
  if (!caller.signedIn) keepGuestLines(event, after)
  const holder = holderOf(event, caller)
  if (holder) await keepNoMoreThan(db(), tillName(holder), after)
  return after
}
