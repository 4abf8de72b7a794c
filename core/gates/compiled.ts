/**
 * The rules of one edition over one site, compiled: every thing is given its
 * weave (the things that share one list of gates), and a weave is decided
 * once per visitor, never once per thing.
 */
import { ConditionSlots } from '../conditions/compile'
import { looksAt } from '../conditions/looks-at'
import { groupsOf } from '../visitor/fact-source'
import type { FactGroup } from '../visitor/fact-group'
import type { Condition } from '../conditions/condition'
import { kinds, listedKinds, moduleOf, resourceKey, rights } from '../kinds/kinds'
import type { Kind, Resource, Right } from '../kinds/kinds'
import type { Rulebook } from '../rulebook/rulebook'
import type { Site } from '../site/site'
import { SiteIndex } from '../site/site-index'
import { chainOf } from './chain'
import type { Chain, Step } from './chain'
import { foldRight } from './fold'
import type { PathPattern } from '../site/path-pattern'
import { RuleSet } from './rule-set'
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

/** Where it should stand is not there. */
const nowhere = -2

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
  private readonly looks: Set<FactGroup>[] = []

  /**
   * `before`: rules compiled earlier, over the same site. Where gates stand where they stood then, whatever
   * they say now, things have the weaves they had, by the same numbers (`sameWeavesAs`).
   */
  constructor(rulebook: Rulebook, site: Site | SiteIndex, before?: CompiledRules) {
    super(rulebook, site)
    this.slots = new ConditionSlots(this.audiences, this.holdings)
    if (before && before.index === this.index && before.placement === this.placement) {
      for (const { example } of before.weaves) this.weaveOf(example)
      this.sameWeavesAs = before
    }
  }

  readonly sameWeavesAs: CompiledRules | undefined
  private placed: string | undefined

  /** Equal where the same gates stand in the same places, in the same order, and forget alike. */
  private get placement(): string {
    return (this.placed ??= JSON.stringify(
      (this.rulebook.gates ?? []).map(({ id, on, active, inherit }) => [id, on, active !== false, inherit !== false]),
    ))
  }

  /** The weave of a thing; -1 when it is not there. What shares everything a gate can see, as records of a register do, shares its own. */
  weaveOf(resource: Resource): number {
    const { find, sharedId, standsIn } = moduleOf(resource.kind)
    const given = find && this.index.find(resource)
    if (find && !given) return -1
    const thing = resourceKey(resource.kind, (given && sharedId?.(given as never)) ?? resource.id)
    const known = this.byThing.get(thing)
    if (known !== undefined) return known
    // What stands in one another may do so in a ring, which must end.
    if (standsIn) this.byThing.set(thing, -1)
    const chain = chainOf(resource, this.gates, this.index)
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

  private placeOf({ standsIn }: Chain): number {
    if (standsIn === undefined || standsIn === 'open') return -1
    const place = this.weaveOf(standsIn)
    return place < 0 ? nowhere : place
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

  /** Which facts of a request decide a right of a weave's things, or the answer to a refusal. */
  factsOfWeave(number: number): ReadonlySet<FactGroup> {
    const known = this.looks[number]
    if (known) return known
    const facts = new Set<FactGroup>()
    if (number < 0) return facts
    this.looks[number] = facts
    const { example, standsIn } = this.weaves[number]!
    const chain = chainOf(example, this.gates, this.index)!
    for (const right of rights)
      for (const { condition, guard } of foldRight(chain, right).terms) {
        if (guard?.pattern.pairs.length) facts.add('query')
        for (const one of this.factsOfCondition(condition)) facts.add(one)
      }
    for (const one of this.factsOfWeave(standsIn)) facts.add(one)
    return facts
  }

  factsOf(resource: Resource): ReadonlySet<FactGroup> {
    return this.factsOfWeave(this.weaveOf(resource))
  }

  /** Which facts of a request a condition depends on, through audiences and other things too. */
  factsOfCondition(condition: Condition): Set<FactGroup> {
    return looksAt(condition, {
      audience: id => (this.audiences.has(id) ? this.factsOfCondition(this.audiences.get(id)!) : []),
      opens: (kind, id) => this.factsOf({ kind, id }),
      fact: id => groupsOf(this.rulebook.facts?.find(one => one.id === id)?.from),
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

/** Everything on a site a right can be asked of, in the order of the kinds and of the site's lists. What comes with the question is not there. */
export function thingsOf(site: Site | SiteIndex): Resource[] {
  const index = site instanceof SiteIndex ? site : new SiteIndex(site)
  return kinds.flatMap(kind => (listedKinds.has(kind) ? [...index.all(kind).keys()].map(id => ({ kind, id })) : []))
}
