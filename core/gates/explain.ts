/** Why a verdict is as it is: every gate of the chain, every leaf, what decided, which answer won. */
import type { Condition } from '../conditions/condition'
import type { Gate, Notice, Treatment } from '../rulebook/gate'
import { rights } from '../kinds/kinds'
import type { Resource, Right } from '../kinds/kinds'
import { pointer } from '../pointer'
import { TRUE, triWord } from '../tri'
import type { Tri, TriWord } from '../tri'
import { chainOf, GateIndex } from './chain'
import type { Chain, PlacedGate, StepName } from './chain'
import { foldRight, statedOf } from './fold'
import { takeNoticeOf } from './otherwise'
import type { Answer } from './otherwise'
import type { RuleSet } from './rule-set'
import type { PlainDecider } from './plain-decider'
import type { Verdict } from './verdict'

/** What one right of one gate says. `values` holds every part of the condition by JSON Pointer; `''` is the whole. */
export interface ExplainedRight {
  right: Right
  condition: Condition
  /** `true` admits; with the master key where `withKey` says so. */
  value: TriWord
  values: Record<string, TriWord>
  /** Still counts: no later gate with `inherit: false` has forgotten it. */
  inForce: boolean
  /** Set when the plain reading refuses and the master key admits. */
  withKey?: true
}

export interface ExplainedGate {
  id: string
  order: number
  gate: Gate
  step: StepName | 'guard'
  /** The container or kind of the step. */
  on?: string
  /** Which way through the containers, from 0. */
  branch?: number
  rights: ExplainedRight[]
  /** A guard whose query pairs are not in the request. */
  asleep?: true
  /** Switched off: it would stand here, and says nothing. */
  off?: true
  /** Refuses open here and now. */
  refuses: boolean
  /** Its otherwise or take notice is the one the visitor gets. */
  answers?: true
}

export interface Explanation {
  resource: Resource
  verdict: Verdict
  gates: ExplainedGate[]
  /** What it stands in, explained in turn. */
  standsIn?: Explanation
  /** What it should stand in is not there, so it stays shut. */
  standsNowhere?: true
  /** The innermost gate that refuses open; absent when it opens or when only the place refuses. */
  decidedBy?: string
  /** Of what opens: the innermost gate that withholds its price, or that it is bought or fetched. */
  withheldBy?: Partial<Record<Withheld, string>>
  /** Shut by its kind, as a service route is, and no gate opens it. */
  closed?: true
  otherwise?: Answer<Treatment>
  takeNotice?: Answer<Notice>
}

/** Null when the thing is not there. */
export function explain(decider: PlainDecider, resource: Resource): Explanation | null {
  const { gates: gateIndex, index } = decider.rules
  const chain = chainOf(resource, gateIndex, index)
  if (!chain) return null
  const verdict = decider.decide(resource)
  const shown = chainOf(resource, withSleeping(decider.rules), index)!
  const explained = placedGates(shown).map(placed => explainGate(decider, chain, placed))
  const explanation: Explanation = { resource, verdict, gates: explained }
  if (chain.standsIn && chain.standsIn !== 'open') {
    const place = explain(decider, chain.standsIn)
    if (place) explanation.standsIn = place
    else explanation.standsNowhere = true
  }
  if (foldRight(chain, 'open').closed) explanation.closed = true
  const decisive = explained.findLast(one => one.refuses)
  if (!verdict.open && decisive) explanation.decidedBy = decisive.id
  const withheld = withheldBy(verdict, explained)
  if (Object.keys(withheld).length) explanation.withheldBy = withheld
  answers(decider, chain, explanation)
  return explanation
}

type Withheld = 'price' | 'take'
function withheldBy(verdict: Verdict, gates: readonly ExplainedGate[]): Partial<Record<Withheld, string>> {
  if (!verdict.open) return {}
  const refusing = (right: Withheld) =>
    gates.findLast(
      gate => !gate.asleep && gate.rights.some(one => one.right === right && one.inForce && one.value !== true),
    )?.id
  const price = verdict.price ? undefined : refusing('price')
  // What is not priced for somebody is not sold to them either.
  const take = verdict.take ? undefined : (refusing('take') ?? price)
  return { ...(price === undefined ? {} : { price }), ...(take === undefined ? {} : { take }) }
}

/** All gates of these rules, those switched off among them. */
const sleeping = new WeakMap<RuleSet, GateIndex>()
function withSleeping(rules: RuleSet): GateIndex {
  let gates = sleeping.get(rules)
  if (!gates) {
    const isOff = (rules.rulebook.gates ?? []).some(gate => gate.active === false)
    gates = isOff ? new GateIndex(rules.rulebook, { all: true }) : rules.gates
    sleeping.set(rules, gates)
  }
  return gates
}

function answers(decider: PlainDecider, chain: Chain, explanation: Explanation): void {
  const { verdict, gates } = explanation
  if (!verdict.open) explanation.otherwise = decider.otherwise(chain)
  if (verdict.takeNotice) {
    const notice = takeNoticeOf(chain, guard => decider.guardRefuses(guard, 'take', chain))
    if (notice) explanation.takeNotice = notice
  }
  for (const answer of [explanation.otherwise, explanation.takeNotice]) {
    if (!answer || answer.from === 'default' || !('gate' in answer.from)) continue
    const { gate } = answer.from
    const from = gates.find(one => one.order === gate)
    if (from) from.answers = true
  }
}

interface Placed {
  placed: PlacedGate
  step: StepName | 'guard'
  on?: string
  branch?: number
}

function placedGates(chain: Chain): Placed[] {
  const of = (steps: Chain['outer'], branch?: number): Placed[] =>
    steps.flatMap(step =>
      step.gates.map(placed => ({
        placed,
        step: step.on,
        ...(step.id === undefined ? {} : { on: step.id }),
        ...(branch === undefined ? {} : { branch }),
      })),
    )
  return [
    ...of(chain.outer),
    ...chain.branches.flatMap((steps, branch) => of(steps, branch)),
    ...of(chain.inner),
    ...chain.guards.map((placed): Placed => ({ placed, step: 'guard' })),
  ]
}

function explainGate(decider: PlainDecider, chain: Chain, at: Placed): ExplainedGate {
  const { gate, order } = at.placed
  const isGuard = at.step === 'guard'
  const guard = chain.guards.find(one => one.order === order)
  const asleep = guard !== undefined && !decider.applies({ guard })
  const explained = rights.flatMap(right => {
    const condition = statedOf(isGuard ? { ...gate, inherit: true } : gate, right)
    return condition && condition !== 'reset' ? [explainRight(decider, chain, order, right, condition)] : []
  })
  const open = explained.find(one => one.right === 'open')
  return {
    id: gate.id,
    order,
    gate,
    step: at.step,
    ...(at.on === undefined ? {} : { on: at.on }),
    ...(at.branch === undefined ? {} : { branch: at.branch }),
    rights: explained,
    ...(asleep ? { asleep: true as const } : {}),
    ...(gate.active === false ? { off: true as const } : {}),
    refuses: !asleep && open !== undefined && open.inForce && open.value !== true,
  }
}

function explainRight(
  decider: PlainDecider,
  chain: Chain,
  order: number,
  right: Right,
  condition: Condition,
): ExplainedRight {
  const inForce = foldRight(chain, right).terms.some(term => term.order === order)
  const plain = readAll(decider, chain, condition, false)
  if (plain[''] === true || !decider.asker.masterKey || decider.test(condition, true, chain) !== TRUE)
    return { right, condition, value: plain['']!, values: plain, inForce }
  return { right, condition, value: true, values: readAll(decider, chain, condition, true), inForce, withKey: true }
}

function readAll(decider: PlainDecider, chain: Chain, condition: Condition, withKey: boolean): Record<string, TriWord> {
  const values: Record<string, TriWord> = {}
  decider.test(condition, withKey, chain, (path, value: Tri) => {
    values[pointer(path)] = triWord(value)
  })
  return values
}
