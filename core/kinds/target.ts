/** Where an entry of a menu leads: one thing of the site, or a web address. */
import { z } from 'zod'
import { oneOfKeys } from '../shapes'
import { kinds } from './kinds'
import type { Kind, Resource } from './kinds'

export type Target = Record<string, string>
// Asked late: the list of kinds names the menu item's module, which is made of this.
export const target: z.ZodType<Target> = oneOfKeys<Target>(() =>
  Object.fromEntries([...kinds, 'url'].map(kind => [kind, z.string()])),
)

/** The thing a target leads to; null for an address elsewhere, or none. */
export function targetThing(to: Target | undefined): Resource | null {
  const [kind, id] = Object.entries(to ?? {})[0] ?? []
  return kind === undefined || !(kinds as readonly string[]).includes(kind) ? null : { kind: kind as Kind, id: id! }
}
