/** Parts beside each other that were copied and given to opposite visitors by hand: they could be alternatives of one place. */
import type { Condition } from '../conditions/condition'
import { keyOf } from '../conditions/condition'
import type { CompiledRules } from '../gates/compiled'
import { standsAt } from '../kinds/block'
import type { Block, Standing } from '../kinds/block'
import type { Resource } from '../kinds/kinds'
import { rights } from '../kinds/kinds'
import type { Gate } from '../rulebook/gate'
import { coverageOf, spaceOf } from './coverage'

export interface InvertedCopies {
  /** As they would be asked, first to last: the last goes to everybody else, and needs no gate any more. */
  parts: string[]
  /** The gate that is not needed any more. */
  dropped: string
}

/** As many stand beside each other at most, and as many visitors are told apart: it is looked for while one writes. */
const mostParts = 4
const mostPieces = 4000

export function invertedCopies(rules: CompiledRules, place: Standing, nowMs: number): InvertedCopies[] {
  const [kind, id] = standsAt(place)
  const around: Resource | null = 'frame' in place ? null : ({ kind, id } as Resource)
  if ('block' in place && rules.index.get('block', id)?.oneOf) return []
  const beside = rules.index.standingIn(kind, id)
  const gates = beside.map(one => onlyGateOf(rules, one))
  const found: InvertedCopies[] = []
  for (let from = 0; from < beside.length; from++)
    for (let size = 2; size <= mostParts && from + size <= beside.length; size++) {
      const run = beside.slice(from, from + size)
      const own = gates.slice(from, from + size)
      if (own.includes(null)) break
      const parts = run.map((one): Resource => ({ kind: 'block', id: one.id }))
      if (spaceOf(rules, [...(around ? [around] : []), ...parts], nowMs).count > mostPieces) continue
      const told = coverageOf(rules, { place: around, parts }, nowMs)
      if (told.state !== 'decided' || told.gap || told.overlap || told.nobodys.length) continue
      found.push(joined(run, own as Gate[]))
      from += size - 1
      break
    }
  return found
}

/** The only gate on it, where that says whom it opens to and nothing else. */
function onlyGateOf({ rulebook }: CompiledRules, block: Block): Gate | null {
  const own = (rulebook.gates ?? []).filter(gate => 'block' in gate.on && gate.on.block === block.id)
  const [gate] = own
  if (own.length !== 1 || !gate?.open || gate.active === false || gate.inherit === false || gate.otherwise) return null
  return rights.every(right => right === 'open' || gate[right] === undefined) ? gate : null
}

/** Whoever was said by a “not” is everybody else. */
function joined(run: readonly Block[], gates: readonly Gate[]): InvertedCopies {
  const isNot = (open: Condition) => keyOf(open)[0] === 'not'
  const rest = gates.findIndex(gate => isNot(gate.open!))
  const last = rest < 0 ? run.length - 1 : rest
  return {
    parts: [...run.filter((_, i) => i !== last), run[last]!].map(one => one.id),
    dropped: gates[last]!.id,
  }
}
