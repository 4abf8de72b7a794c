/** Which server mail goes to, and whether it was seen to arrive by way of it. */
import { environment } from './environment'
import { hashOf } from './services/secrets/tokens'

let standInUrl: string | undefined
export function useStandIn(url: string): void {
  standInUrl = url
}
/** The SMTP server mail goes to; undefined while none is known. */
export const smtpUrl = () => environment().BRAVIK_SMTP_URL ?? standInUrl
export const usesStandIn = () => !environment().BRAVIK_SMTP_URL

/** The application's own group of settings that says what is known of the mail server. */
export const mailCheckGroup = 'mail-check'
export interface MailCheck {
  code?: string
  askedAt?: number
  /** The server that was checked, hashed. */ server?: string
  worksSince?: number
}

/** The stand-in has another port at every start; it counts as one server. */
export const mailServerNow = () => (usesStandIn() ? 'stand-in' : hashOf(smtpUrl() ?? ''))

export function isMailChecked(kept: unknown): boolean {
  const check = kept as MailCheck | undefined
  return check?.worksSince !== undefined && check.server === mailServerNow()
}
