/** Whether a part is shown to somebody anywhere, for what is asked for by its own address instead of with its page. */
import type { CompiledRules } from '../../gates/compiled'
import { treatmentFor } from '../../gates/otherwise'
import { moduleOf } from '../../kinds/kinds'
import type { Resource } from '../../kinds/kinds'
import type { Otherwise } from '../../rulebook/gate'

/** What shows parts of the shelf: parts that share them, by what they share; and what the refused get instead. */
interface Showing {
  sharing: ReadonlyMap<string, readonly string[]>
  swapped: ReadonlySet<string>
}
const known = new WeakMap<CompiledRules, Showing>()

/** Parts that show a part of the shelf. */
export const sharersOf = (id: string, rules: CompiledRules): readonly string[] => showingOf(rules).sharing.get(id) ?? []

function swapsOf(otherwise: Otherwise | undefined): string[] {
  return [false, true].flatMap(signedIn => {
    const treatment = treatmentFor(otherwise, signedIn)
    return treatment && 'swap' in treatment ? [treatment.swap.block] : []
  })
}

function showingOf(rules: CompiledRules): Showing {
  const found = known.get(rules)
  if (found) return found
  const sharing = new Map<string, string[]>()
  for (const { id, shares } of rules.index.all('block').values())
    if (shares !== undefined) sharing.set(shares, [...(sharing.get(shares) ?? []), id])
  const { gates = [], settings } = rules.rulebook
  const said = [...gates.map(gate => gate.otherwise), ...Object.values(settings?.otherwise ?? {})]
  const made = { sharing, swapped: new Set(said.flatMap(one => swapsOf(one as Otherwise | undefined))) }
  known.set(rules, made)
  return made
}

/**
 * A part opens where it stands. One of the shelf shows nowhere itself: it, or what it stands in there, is shown by a
 * part that opens, or stands in place of what somebody is refused. `opens`: whether the visitor may open a thing.
 */
export function opensWhereItStands(
  thing: Resource,
  rules: CompiledRules,
  opens: (thing: Resource) => boolean,
  seen = new Set<string>(),
): boolean {
  if (seen.has(thing.id) || !opens(thing)) return false
  const { index } = rules
  const { around } = moduleOf(thing.kind)
  const own = index.find(thing)
  if (!around || !own) return true
  seen.add(thing.id)
  // What it stands in, outermost first.
  const standing = [...around(own as never, index), thing.id]
  if (!index.standingIn('frame', 'shelf').some(one => one.id === standing[0])) return true
  const { sharing, swapped } = showingOf(rules)
  const shown = (by: string) => opensWhereItStands({ kind: 'block', id: by }, rules, opens, seen)
  return standing.some(one => swapped.has(one) || (sharing.get(one) ?? []).some(shown))
}
