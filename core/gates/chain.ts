/**
 * The chain of a thing: the gates read on the way to it, from the outside in.
 * Everything about "which gates, in which order" is here; what they decide is
 * in `decide` (the plain reading) and `compiled` (the fast one).
 */
import type { Gate } from '../rulebook/gate'
import { resourceKey } from '../rulebook/kinds'
import type { Kind, Resource } from '../rulebook/kinds'
import type { Rulebook } from '../rulebook/rulebook'
import type { SiteIndex } from '../site/site-index'
import { splitField } from '../site/site-index'
import { pathPattern } from './path-pattern'
import type { PathPattern } from './path-pattern'

/** A gate with its place in the rulebook. */
export interface PlacedGate {
  gate: Gate
  order: number
}
/** One thing on the way: a category, a page above, the kind… `label` names it for explanations. */
export interface Step {
  on: StepName
  id?: string
  gates: PlacedGate[]
}
export type StepName = 'everything' | 'kind' | 'page' | 'topic' | 'category' | 'folder' | 'product' | 'self'
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

/** Active gates by what they stand on, ready for chains. */
export class GateIndex {
  readonly everything: PlacedGate[] = []
  readonly guards: Guard[] = []
  private readonly byScope = new Map<string, PlacedGate[]>()
  private readonly lines = new Map<string, Step[]>()

  constructor(rulebook: Rulebook) {
    ;(rulebook.gates ?? []).forEach((gate, order) => {
      if (gate.active !== false) this.place({ gate, order })
    })
  }

  private place(placed: PlacedGate): void {
    const on = placed.gate.on as Record<string, unknown>
    if ('everything' in on) return void this.everything.push(placed)
    if ('path' in on) return void this.guards.push({ ...placed, pattern: pathPattern(on.path as string) })
    const key = Object.keys(on).find(one => one !== 'below')!
    this.put(`${key}:${String(on[key])}`, placed)
    if (key === 'page' && on.below) this.put(`below:${String(on.page)}`, placed)
  }

  private put(key: string, placed: PlacedGate): void {
    const list = this.byScope.get(key)
    if (list) list.push(placed)
    else this.byScope.set(key, [placed])
  }

  /** The steps through a container and what it lies in; made once for all the things in it. */
  line(on: 'category' | 'folder', id: string, index: SiteIndex): Step[] {
    const key = `${on}:${id}`
    let line = this.lines.get(key)
    if (!line) {
      line = index
        .lineage<{ id: string; parent?: string }>(on === 'category' ? index.categories : index.folders, id)
        .map(one => ({ on, id: one, gates: this.on(on, one) }))
      this.lines.set(key, line)
    }
    return line
  }

  on(scope: string, id: string): PlacedGate[] {
    return this.byScope.get(`${scope}:${id}`) ?? none
  }
}

const none: PlacedGate[] = []

/** Kinds an `everything` gate reaches only through what they stand in. */
const insideOthers: ReadonlySet<Kind> = new Set(['block', 'record', 'field'])

/** The chain of a thing, or null when it is not there. */
export function chainOf(resource: Resource, gates: GateIndex, index: SiteIndex): Chain | null {
  const { kind, id } = resource
  if (!index.has(kind, id)) return null
  const outer: Step[] = insideOthers.has(kind) ? [] : [{ on: 'everything', gates: gates.everything }]
  outer.push({ on: 'kind', id: kind, gates: gates.on('kind', kind) })
  const chain: Chain = {
    resource,
    outer,
    branches: branchesOf(kind, id, gates, index),
    inner: [],
    guards: guardsOf(kind, id, gates, index),
  }
  const parent = kind === 'product' ? index.products.get(id)?.of : undefined
  if (parent) chain.inner.push({ on: 'product', id: parent, gates: gates.on('product', parent) })
  chain.inner.push({ on: 'self', id, gates: ownGates(kind, id, gates, index) })
  const standsIn = standingPlace(resource, index)
  if (standsIn) chain.standsIn = standsIn
  return chain
}

function ownGates(kind: Kind, id: string, gates: GateIndex, index: SiteIndex): PlacedGate[] {
  return kind === 'record' ? gates.on('records', index.records.get(id)!.register) : gates.on(kind, id)
}

function branchesOf(kind: Kind, id: string, gates: GateIndex, index: SiteIndex): Step[][] {
  const categorySteps = (category: string) => gates.line('category', category, index)
  if (kind === 'page')
    return notEmpty(
      index
        .lineage(index.pages, id)
        .slice(0, -1)
        .map((page): Step => ({ on: 'page', id: page, gates: gates.on('below', page) })),
    )
  if (kind === 'post')
    return (index.posts.get(id)!.topics ?? []).map((topic): Step[] => [
      { on: 'topic', id: topic, gates: gates.on('topic', topic) },
    ])
  if (kind === 'product')
    return index
      .categoriesOf(index.products.get(id)!)
      .map(categorySteps)
      .filter(steps => steps.length > 0)
  if (kind === 'category') return notEmpty(categorySteps(id).slice(0, -1))
  if (kind === 'download') return notEmpty(gates.line('folder', index.downloads.get(id)!.folder ?? '', index))
  return []
}

const notEmpty = (steps: Step[]) => (steps.length ? [steps] : [])

function guardsOf(kind: Kind, id: string, gates: GateIndex, index: SiteIndex): Guard[] {
  const path = index.pathOf(kind, id)
  return path === undefined ? [] : gates.guards.filter(guard => guard.pattern.matches(path))
}

function standingPlace({ kind, id, record }: Resource, index: SiteIndex): Resource | 'open' | undefined {
  if (kind === 'block') {
    const place = index.blocks.get(id)!.in
    if ('frame' in place) return 'open'
    const [key, value] = Object.entries(place)[0] as [Kind, string]
    return { kind: key, id: value }
  }
  if (kind === 'record') return { kind: 'register', id: index.records.get(id)!.register }
  if (kind === 'field') {
    // A field is only ever read in a record; asked for without one it stands nowhere and stays shut.
    const belongs = record !== undefined && index.records.get(record)?.register === splitField(id)[0]
    return { kind: 'record', id: belongs ? record : '' }
  }
  return undefined
}

export const chainKey = ({ kind, id, record }: Resource) =>
  record ? `${resourceKey(kind, id)}@${record}` : resourceKey(kind, id)

/** Every gate of a chain, in the order it is read; guards last. */
export function gatesOf(chain: Chain): PlacedGate[] {
  return [...chain.outer, ...chain.branches.flat(), ...chain.inner].flatMap(step => step.gates).concat(chain.guards)
}
