/** Where a redirect leads in the end. */
import { leadsOutside } from '../site/leads'
import { isOwnAddress } from '../site/own-addresses'
import type { Treatment } from '../rulebook/gate'

/**
 * `to` as it was given, or null where it would lead back: to one of `from`, or to an address it was led by before.
 * `answered`: what stands at a path in place of what is refused or not there; undefined where something opens.
 */
export function ledTo(
  to: string,
  answered: (path: string) => Treatment | undefined,
  from: readonly string[] = [],
): string | null {
  const seen = new Set(from)
  for (let path = to; ;) {
    if (leadsOutside(path)) return to
    const bare = path.split(/[?#]/)[0]!
    if (seen.has(bare)) return null
    seen.add(bare)
    if (isOwnAddress(bare)) return to
    const otherwise = answered(bare)
    if (!otherwise || !('redirect' in otherwise)) return to
    path = otherwise.redirect.to
  }
}
