import type { ListedPerson } from '~/loft/core/route-answers'

/** Whether a membership runs at this moment. */
export function holdsNow(held: ListedPerson['memberships'][number]): boolean {
  return Date.parse(held.since) <= Date.now() && (!held.until || Date.parse(held.until) > Date.now())
}
