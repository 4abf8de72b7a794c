/** Where a redirect and a landing may lead: a path of this site, or an address below one of the hosts the site may lead to. */
import { isSitePath } from '../shapes'

/** The host of an address elsewhere, with its port where it names one; null where it is none that may be led to. */
export function hostLedTo(to: string): string | null {
  // What parsers of addresses do not all read alike is none: RFC 3986 knows no backslash, space or control character.
  // eslint-disable-next-line no-control-regex -- control characters are what is looked for
  if (!/^https:\/\/[^/]+\//i.test(to) || /[\\\u0000-\u0020\u007f]/.test(to)) return null
  const url = URL.canParse(to) ? new URL(to) : null
  return url && !url.username && !url.password ? url.host : null
}

export const leadsOutside = (to: string) => !to.startsWith('/')
/** Whether it is written as something that can be led to, on whatever host. */
export const isLead = (to: string) => isSitePath(to) || hostLedTo(to) !== null

/** `hosts`: `settings.leadsTo`; compared without letter case. */
export function mayLead(to: string, hosts: readonly string[] = []): boolean {
  if (isSitePath(to)) return true
  const host = hostLedTo(to)
  return host !== null && hosts.some(one => one.toLowerCase() === host)
}
