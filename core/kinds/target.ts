/** Where an entry of a menu leads: one thing of the site, a web address, or a place the application itself has. */
import { z } from 'zod'
import { oneOfKeys } from '../shapes'
import { knownKinds } from './known-kinds'
import type { Kind, Resource } from './kinds'

export type Target = Record<string, string>
// Asked late: the list of kinds names the menu item's module, which is made of this.
export const target: z.ZodType<Target> = oneOfKeys<Target>(() =>
  Object.fromEntries([
    ...[...knownKinds(), 'url'].map(kind => [kind, z.string()] as const),
    ['own', z.enum(ownPlaces)],
  ]),
)

/** Places of the application: the way in for guests and out for others; what is their own, for whoever is in; what they buy. */
const ownPlaces = ['entrance', 'account', 'basket'] as const
export type OwnPlace = (typeof ownPlaces)[number]
/** Which of them a target is; null for anything else. */
export const targetPlace = (to: Target | undefined): OwnPlace | null => ownPlaces.find(one => to?.own === one) ?? null

/** The thing a target leads to; null for an address elsewhere, or none. */
export function targetThing(to: Target | undefined): Resource | null {
  const [kind, id] = Object.entries(to ?? {})[0] ?? []
  return kind === undefined || !knownKinds().includes(kind) ? null : { kind: kind as Kind, id: id! }
}
