/**
 * What may not be found, and answers at its address all the same: whoever tries the address knows that it is there. Told
 * apart from what is not there by what an address that leads nowhere answers.
 */
import { canonical } from '../canonical'
import { rightBit } from '../gates/verdict'
import type { CompiledDecider } from '../gates/compiled-decider'
import type { CompiledRules, Weave } from '../gates/compiled'
import { chainOf } from '../gates/chain'
import type { Chain, PlacedGate } from '../gates/chain'
import { otherwiseCandidates, otherwiseOf } from '../gates/otherwise'
import type { Answer } from '../gates/otherwise'
import { perWeave } from '../gates/per-weave'
import { moduleOf } from '../kinds/kinds'
import type { Treatment } from '../rulebook/gate'

interface Asked {
  chain: Chain
  candidates: PlacedGate[]
  path: string
  /** A guard may answer, and whether it does depends on who asks. */
  guarded: boolean
  /** By whether they are signed in. */ known: Map<boolean, Answer<Treatment> | null>
}

const askedOf = perWeave((number, rules): Asked | null => {
  const { example } = rules.weaves[number]!
  const chain = chainOf(example, rules.gates, rules.index)
  const path = rules.index.pathOf(example.kind, example.id)
  if (!chain || path === undefined || moduleOf(example.kind).closed) return null
  const candidates = otherwiseCandidates(chain, rules.gates, rules.index)
  return { chain, candidates, path, guarded: chain.guards.some(guard => guard.gate.otherwise), known: new Map() }
})

/** What the refused get at the addresses of a weave's things, and who says so; null of what has no address. */
export function answerOfWeave(rules: CompiledRules, weave: Weave, decider: CompiledDecider): Answer<Treatment> | null {
  const asked = askedOf(weave.number, rules)
  if (!asked) return null
  const { chain, candidates } = asked
  return otherwiseOf(chain, candidates, guard => decider.refusesAt(guard), decider.asker.signedIn, rules.rulebook)
}

/** What somebody is told who may neither find nor open things of a weave; null where it is what they are told of nothing. */
export function toldOfHidden(rules: CompiledRules, weave: Weave, decider: CompiledDecider): Answer<Treatment> | null {
  const asked = askedOf(weave.number, rules)
  if (!asked) return null
  const { signedIn } = decider.asker
  const known = asked.guarded ? undefined : asked.known.get(signedIn)
  if (known !== undefined) return known
  const { path } = asked
  const answer = answerOfWeave(rules, weave, decider)!
  const told = canonical(answer.value) === canonical(decider.atNowhere(path).value) ? null : answer
  // Something of its own that says nothing is there tells nothing.
  const found = told && 'absent' in told.value ? null : told
  if (!asked.guarded) asked.known.set(signedIn, found)
  return found
}

export const isHidden = (bits: number) => (bits & (rightBit.find | rightBit.open)) === 0
