/**
 * The rules of one edition over one site, compiled: every thing is given its
 * weave (the things that share one list of gates), and a weave is decided
 * once per visitor, never once per thing.
 */
import { ConditionSlots } from '../conditions/compile'
import { looksAt } from '../conditions/looks-at'
import type { FactGroup } from '../conditions/looks-at'
import type { Condition } from '../conditions/condition'
import { resourceKey, rights } from '../rulebook/kinds'
import type { Kind, Resource, Right } from '../rulebook/kinds'
import type { Rulebook } from '../rulebook/rulebook'
import type { Site } from '../site/site'
import type { SiteIndex } from '../site/site-index'
import { chainOf } from './chain'
import type { Chain, Step } from './chain'
import { foldRight } from './fold'
import type { PathPattern } from './path-pattern'
import { RuleSet } from './plain-decider'
import { rightBit } from './verdict'

/** Slots that must all be true for the rights in `bits`, plain and with the master key. Rights that ask the same are asked once. */
interface CompiledRight {
  bits: number
  plain: Int32Array
  key: Int32Array
  guards: CompiledGuard[]
}
interface CompiledGuard {
  pairs: PathPattern['pairs']
  plain: number
  key: number
}

export interface Weave {
  number: number
  kind: Kind
  /** A thing of this weave, to explain it by. */
  example: Resource
  /** Bits of the rights nothing stands before. */
  free: number
  rights: CompiledRight[]
  /** The weave of what it stands in; -1 when it stands in nothing or in the frame, -2 when that is not there. */
  standsIn: number
  perRecord: boolean
  /** How many things share it. */
  size: number
}

export class CompiledRules extends RuleSet {
  readonly slots: ConditionSlots
  readonly weaves: Weave[] = []
  private readonly byKey = new Map<string, number>()
  private readonly byThing = new Map<string, number>()
  private readonly looks = new Map<string, Set<FactGroup>>()

  constructor(rulebook: Rulebook, site: Site | SiteIndex) {
    super(rulebook, site)
    this.slots = new ConditionSlots(this.audiences, this.holdings)
  }

  /** The weave of a thing; -1 when it is not there. Records of a register, and their fields, share theirs. */
  weaveOf(kind: Kind, id: string): number {
    const thing = resourceKey(kind, id)
    const known = this.byThing.get(thing)
    if (known !== undefined) return known
    // Only blocks stand in one another, and a ring of them must end.
    if (kind === 'block') this.byThing.set(thing, -1)
    const chain = chainOf({ kind, id }, this.gates, this.index)
    const weave = chain ? this.weave(chain) : -1
    this.byThing.set(thing, weave)
    return weave
  }

  private weave(chain: Chain): number {
    const standsIn = this.placeOf(chain)
    const key = weaveKey(chain, standsIn)
    const known = this.byKey.get(key)
    if (known !== undefined) {
      this.weaves[known]!.size++
      return known
    }
    const number = this.weaves.length
    this.byKey.set(key, number)
    const weave: Weave = {
      number,
      kind: chain.resource.kind,
      example: chain.resource,
      free: 0,
      rights: [],
      standsIn,
      perRecord: standsIn >= 0 && this.weaves[standsIn]!.perRecord,
      size: 1,
    }
    for (const right of rights) this.addRight(weave, chain, right)
    weave.perRecord ||= weave.rights.some(right => [...right.plain].some(slot => this.slots.slots[slot]!.perRecord))
    this.weaves.push(weave)
    return number
  }

  private placeOf(chain: Chain): number {
    const { standsIn, resource } = chain
    if (standsIn === undefined || standsIn === 'open') return -1
    if (resource.kind === 'field') return this.recordsWeave(resource.id.slice(0, resource.id.indexOf('/')))
    const place = this.weaveOf(standsIn.kind, standsIn.id)
    return place < 0 ? -2 : place
  }

  /** Fields are asked for in a record, and any record of the register has the weave they stand in. */
  private recordsWeave(register: string): number {
    const record = (this.index.site.records ?? []).find(one => one.register === register)
    return record ? this.weaveOf('record', record.id) : -2
  }

  /** A right no gate can give, such as opening a route that none opens, is neither free nor asked about. */
  private addRight(weave: Weave, chain: Chain, right: Right): void {
    const { terms, closed } = foldRight(chain, right)
    if (closed) return
    const always = terms.filter(term => !term.guard?.pattern.pairs.length)
    const plain = [...new Set(always.map(term => this.slots.slotOf(term.condition, 'plain')))]
    const key = [...new Set(always.map(term => this.slots.slotOf(term.condition, 'key')))]
    const guards = terms.flatMap(({ guard, condition }) =>
      guard?.pattern.pairs.length
        ? [
            {
              pairs: guard.pattern.pairs,
              plain: this.slots.slotOf(condition, 'plain'),
              key: this.slots.slotOf(condition, 'key'),
            },
          ]
        : [],
    )
    if (!plain.length && !guards.length) return void (weave.free |= rightBit[right])
    const same = guards.length
      ? undefined
      : weave.rights.find(one => !one.guards.length && one.plain.join() === plain.join())
    if (same) same.bits |= rightBit[right]
    else weave.rights.push({ bits: rightBit[right], plain: Int32Array.from(plain), key: Int32Array.from(key), guards })
  }

  /** Which facts of a request decide a right, or the answer to a refusal, of a thing. */
  factsOf(kind: Kind, id: string): Set<FactGroup> {
    const key = resourceKey(kind, id)
    const known = this.looks.get(key)
    if (known) return known
    const facts = new Set<FactGroup>()
    this.looks.set(key, facts)
    const chain = chainOf({ kind, id }, this.gates, this.index)
    if (!chain) return facts
    for (const right of rights)
      for (const { condition, guard } of foldRight(chain, right).terms) {
        if (guard?.pattern.pairs.length) facts.add('query')
        for (const one of this.factsOfCondition(condition)) facts.add(one)
      }
    if (chain.standsIn && chain.standsIn !== 'open')
      for (const one of this.factsOf(chain.standsIn.kind, chain.standsIn.id)) facts.add(one)
    return facts
  }

  private factsOfCondition(condition: Condition): Set<FactGroup> {
    return looksAt(condition, {
      audience: id => (this.audiences.has(id) ? this.factsOfCondition(this.audiences.get(id)!) : []),
      opens: (kind, id) => this.factsOf(kind, id),
    })
  }
}

const ordersOf = (steps: Step[]) => steps.map(step => step.gates.map(gate => gate.order).join(',')).join(';')

/** Steps without gates leave no mark, so depth alone makes no new weave. */
function weaveKey(chain: Chain, standsIn: number): string {
  const worded = (steps: Step[]) => ordersOf(steps.filter(step => step.gates.length))
  // Branches without a gate still matter: joined with and, they keep what the outer gates said.
  const branches = [...new Set(chain.branches.map(worded))].join('/')
  return `${chain.resource.kind}|${worded(chain.outer)}|${branches}|${worded(chain.inner)}|${chain.guards.map(guard => guard.order).join(',')}|${standsIn}`
}

/** Everything on a site a right can be asked of, in the order of the site's lists. */
export function thingsOf(site: Site): Resource[] {
  const of = (kind: Kind, list: { id: string }[] | undefined): Resource[] =>
    (list ?? []).map(({ id }) => ({ kind, id }))
  return [
    ...of('page', site.pages),
    ...of('post', site.posts),
    ...of('block', site.blocks),
    ...of('category', site.categories),
    ...of('product', site.products),
    ...of('download', site.downloads),
    ...of(
      'menuItem',
      (site.menus ?? []).flatMap(menu => menu.items),
    ),
    ...of(
      'route',
      (site.routes ?? []).map(id => ({ id })),
    ),
    ...of('register', site.registers),
    ...of('record', site.records),
  ]
}
