import type { ListedPerson } from '~~/server/services/people/people'

/** Whether a membership runs at this moment. */
export function holdsNow(held: ListedPerson['memberships'][number]): boolean {
  return Date.parse(held.since) <= Date.now() && (!held.until || Date.parse(held.until) > Date.now())
}
