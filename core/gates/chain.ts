/**
 * The chain of a thing: the gates read on the way to it, from the outside in.
 * Everything about "which gates, in which order" is here and in the kinds'
 * modules; what they decide is in `decide` (the plain reading) and `compiled` (the fast one).
 */
import type { Gate } from '../rulebook/gate'
import { insideOthers, moduleOf, resourceKey } from '../kinds/kinds'
import type { Kept, Resource } from '../kinds/kinds'
import type { Place } from '../kinds/kind'
import type { SiteIndex } from '../site/site-index'
import { pathPattern } from '../site/path-pattern'
import type { PathPattern } from '../site/path-pattern'

/** A gate with its place in the rulebook. */
export interface PlacedGate {
  gate: Gate
  order: number
}
/** One thing on the way: a category, a page above, the kind… `id` names it for explanations. */
export interface Step {
  on: StepName
  id?: string
  gates: PlacedGate[]
}
export type StepName = 'everything' | 'kind' | 'self' | Kept
export interface Guard extends PlacedGate {
  pattern: PathPattern
}

export interface Chain {
  resource: Resource
  /** Steps 1 and 2: everything, then the kind. */
  outer: Step[]
  /** Step 3: each way through the containers, outermost first. Empty when nothing contains it. */
  branches: Step[][]
  /** What comes after the branches have joined: a variant's parent product, then the thing itself. */
  inner: Step[]
  /** Guards whose path matches; pairs of the query are left to the request. */
  guards: Guard[]
  /** What the thing stands in, which must open. `'open'` is the site's frame. */
  standsIn?: Resource | 'open'
}

/** Gates by what they stand on, ready for chains: those in force, or with `all` those switched off too. */
export class GateIndex {
  readonly everything: PlacedGate[] = []
  readonly guards: Guard[] = []
  private readonly byScope = new Map<string, PlacedGate[]>()
  private readonly steps = new Map<string, Step>()

  constructor(rulebook: { gates?: Gate[] | undefined }, { all = false } = {}) {
    ;(rulebook.gates ?? []).forEach((gate, order) => {
      if (all || gate.active !== false) this.place({ gate, order })
    })
  }

  private place(placed: PlacedGate): void {
    const on = placed.gate.on as Record<string, unknown>
    if ('everything' in on) return void this.everything.push(placed)
    if ('path' in on) return void this.guards.push({ ...placed, pattern: pathPattern(on.path as string) })
    const key = Object.keys(on).find(one => one !== 'below')!
    this.put(`${key}:${String(on[key])}`, placed)
    if (on.below) this.put(`below:${String(on[key])}`, placed)
  }

  private put(key: string, placed: PlacedGate): void {
    const list = this.byScope.get(key)
    if (list) list.push(placed)
    else this.byScope.set(key, [placed])
  }

  /** The step through a container; made once for all the things in it. */
  step({ on, id, scope = on }: Place): Step {
    const key = `${scope}:${id}`
    let step = this.steps.get(key)
    if (!step) {
      step = { on: on as StepName, id, gates: this.on(scope, id) }
      this.steps.set(key, step)
    }
    return step
  }

  on(scope: string, id: string): PlacedGate[] {
    return this.byScope.get(`${scope}:${id}`) ?? none
  }
}

const none: PlacedGate[] = []

/** The chain of a thing, or null when it is not there. */
export function chainOf(resource: Resource, gates: GateIndex, index: SiteIndex): Chain | null {
  const { kind, id } = resource
  const module = moduleOf(kind)
  const thing = index.find(resource) as never
  if (!thing) return null
  const reached = !insideOthers.has(kind) && !module.apart?.(thing)
  const outer: Step[] = !reached ? [] : [{ on: 'everything', gates: gates.everything }]
  outer.push({ on: 'kind', id: kind, gates: gates.on('kind', kind) })
  const path = module.path?.(thing)
  const chain: Chain = {
    resource,
    outer,
    branches: (module.ways?.(thing, index) ?? []).map(way => way.map(place => gates.step(place))),
    inner: [],
    guards: path === undefined ? [] : gates.guards.filter(guard => guard.pattern.matches(path)),
  }
  const before = module.before?.(thing)
  if (before) chain.inner.push(gates.step(before))
  const own = gates.on(module.scope?.key ?? kind, module.sharedId?.(thing) ?? id)
  chain.inner.push({ on: 'self', id, gates: own })
  const standsIn = module.standsIn?.(thing, resource)
  if (standsIn) chain.standsIn = standsIn as Resource | 'open'
  return chain
}

export const chainKey = ({ kind, id, record }: Resource) =>
  record ? `${resourceKey(kind, id)}@${record.id}` : resourceKey(kind, id)

/** Every gate of a chain, in the order it is read; guards last. */
export function gatesOf(chain: Chain): PlacedGate[] {
  return [...chain.outer, ...chain.branches.flat(), ...chain.inner].flatMap(step => step.gates).concat(chain.guards)
}
