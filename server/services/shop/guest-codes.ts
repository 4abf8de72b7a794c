/** What of the codes a guest gave is remembered between requests: as what is known of people signed in. */
import { getCookie } from 'h3'
import type { H3Event } from 'h3'
import type { Visitor } from '../../../core/visitor/visitor'
import type { AnyDb } from '../../db/database'
import { rememberedSession } from '../standing/known-sessions'
import { hashOf, isSignature, signature } from '../secrets/tokens'
import { codesOfGuest } from './given-codes'

/** Tells a guest who gave a code from others. It is set with the first code, and never before. */
export const guestCookie = 'bravik_guest'

export interface GuestCodes {
  codes: NonNullable<Visitor['codes']>
}

/** As a browser holds it: signed, so that nobody makes one up. */
export const guestMark = (token: string) => `${token}.${signature('guest', token)}`

/** What a browser holds, where it is something of ours. */
export function guestTokenOf(event: H3Event): string | undefined {
  const [token = '', given = '', ...rest] = (getCookie(event, guestCookie) ?? '').split('.')
  return !rest.length && /^[\w-]{43}$/.test(token) && isSignature('guest', token, given) ? token : undefined
}

export async function codesInMind(db: AnyDb, token: string): Promise<GuestCodes | undefined> {
  const found = await rememberedSession(`guest ${token}`, async () => {
    const codes = await codesOfGuest(db, hashOf(token))
    return codes.length ? { codes } : null
  })
  return found ?? undefined
}
