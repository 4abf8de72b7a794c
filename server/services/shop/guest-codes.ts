/** What of the codes a guest gave is remembered between requests: as what is known of people signed in. */
import { getCookie } from 'h3'
import type { H3Event } from 'h3'
import type { Visitor } from '../../../core/visitor/visitor'
import type { Tx } from '../../db/database'
import { rememberedSession } from '../entrance/known-sessions'
import { hashOf } from '../secrets/tokens'
import { codesOfGuest } from './given-codes'

/** Tells a guest who gave a code from others. It is set with the first code, and never before. */
export const guestCookie = 'bravik_guest'

export interface GuestCodes {
  codes: NonNullable<Visitor['codes']>
}

/** What a browser holds, where it can be something of ours. */
export function guestTokenOf(event: H3Event): string | undefined {
  const held = getCookie(event, guestCookie)
  return held && /^[\w-]{43}$/.test(held) ? held : undefined
}

export async function codesInMind(db: Tx, token: string): Promise<GuestCodes | undefined> {
  const found = await rememberedSession(`guest ${token}`, async () => {
    const codes = await codesOfGuest(db, hashOf(token))
    return codes.length ? { codes } : null
  })
  return found ?? undefined
}
