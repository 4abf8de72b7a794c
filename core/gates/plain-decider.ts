/**
 * The plain reading of the rules: every chain folded anew for every question,
 * every condition walked as written. Slow and easy to check; explanations are
 * made from it and the compiled decider is tested against it.
 */
import { Asker } from '../visitor/asker'
import { evaluate } from '../conditions/evaluate'
import type { Reading, Watch } from '../conditions/evaluate'
import type { Condition } from '../conditions/condition'
import type { Kind, Resource, Right, SiteRecord } from '../kinds/kinds'
import { noticedKinds, rights } from '../kinds/kinds'
import type { Visitor } from '../visitor/visitor'
import { TRUE } from '../tri'
import { chainKey, chainOf } from './chain'
import type { Chain, Guard } from './chain'
import { foldRight } from './fold'
import type { Term } from './fold'
import type { RuleSet } from './rule-set'
import { answerOfNowhere } from './nowhere'
import { otherwiseCandidates, otherwiseOf, takeNoticeOf } from './otherwise'
import type { Answer } from './otherwise'
import type { Treatment } from '../rulebook/gate'
import { queryFits } from '../site/path-pattern'
import { combine, masterKeyBit, rightBit, verdictOf } from './verdict'
import type { Verdict } from './verdict'

/** `plain` without, `granted` with the master key where one is held. */
export interface Bits {
  plain: number
  granted: number
}
const refused: Bits = { plain: 0, granted: 0 }

export class PlainDecider {
  readonly asker: Asker
  private readonly asking = new Set<string>()

  /** `nowMs` (milliseconds since 1970) counts where the visitor names no time. */
  constructor(
    readonly rules: RuleSet,
    visitor: Visitor,
    nowMs: number,
  ) {
    this.asker = new Asker(visitor, rules.holdings, nowMs)
  }

  /** Verdict on a thing; one that is not there is unseen and absent. */
  decide(resource: Resource): Verdict {
    const chain = chainOf(resource, this.rules.gates, this.rules.index)
    if (!chain) return { ...verdictOf(0), otherwise: { absent: true } }
    const bits = this.bits(resource)
    const verdict = verdictOf(bits.granted | (bits.granted & ~bits.plain ? masterKeyBit : 0))
    if (!verdict.open) verdict.otherwise = this.otherwise(chain).value
    if (noticedKinds.has(resource.kind) && verdict.open && !verdict.take) {
      const notice = takeNoticeOf(chain, guard => this.guardRefuses(guard, 'take', chain))
      if (notice) verdict.takeNotice = notice.value
    }
    return verdict
  }

  otherwise(chain: Chain) {
    const { gates, index, rulebook } = this.rules
    return otherwiseOf(
      chain,
      otherwiseCandidates(chain, gates, index),
      guard => this.guardRefuses(guard, 'open', chain),
      this.asker.signedIn,
      rulebook,
    )
  }

  /** What an address at which nothing stands answers. */
  atNowhere(path: string): Answer<Treatment> {
    return answerOfNowhere(
      path,
      this.rules,
      (guard, chain) => this.guardRefuses(guard, 'open', chain),
      this.asker.signedIn,
    )
  }

  /** The one of several that stand in a thing of their own kind which is shown: the first that opens, or null. */
  shows({ kind, id }: Resource): string | null {
    return this.rules.index.standingIn(kind, id).find(child => this.opens(kind, child.id, true))?.id ?? null
  }

  condition(condition: Condition): ReturnType<typeof evaluate> {
    return evaluate(condition, this.reading(false, undefined))
  }

  opens(kind: Kind, id: string, withKey: boolean): boolean {
    const bits = this.bits({ kind, id })
    return ((withKey ? bits.granted : bits.plain) & rightBit.open) !== 0
  }

  bits(resource: Resource): Bits {
    const key = chainKey(resource)
    const chain = chainOf(resource, this.rules.gates, this.rules.index)
    // Something that asks for itself opens for nobody.
    if (!chain || this.asking.has(key)) return refused
    this.asking.add(key)
    try {
      return this.fold(chain)
    } finally {
      this.asking.delete(key)
    }
  }

  private fold(chain: Chain): Bits {
    const { standsIn } = chain
    const place =
      standsIn === undefined || standsIn === 'open'
        ? { plain: rightBit.open, granted: rightBit.open }
        : this.bits(standsIn)
    const own = (withKey: boolean) =>
      Object.fromEntries(rights.map(right => [right, this.admits(chain, right, withKey)])) as Record<Right, boolean>
    const plain = own(false)
    const keyed = this.asker.masterKey ? own(true) : plain
    const granted = Object.fromEntries(rights.map(right => [right, plain[right] || keyed[right]])) as Record<
      Right,
      boolean
    >
    const { kind } = chain.resource
    return {
      plain: combine(kind, plain, (place.plain & rightBit.open) !== 0),
      granted: combine(kind, granted, (place.granted & rightBit.open) !== 0),
    }
  }

  private admits(chain: Chain, right: Right, withKey: boolean): boolean {
    const { terms, closed } = foldRight(chain, right)
    return !closed && terms.every(term => !this.applies(term) || this.test(term.condition, withKey, chain) === TRUE)
  }

  /** A guard with query pairs joins only requests that carry them. */
  applies(term: { guard?: Guard }): boolean {
    return !term.guard || queryFits(term.guard.pattern.pairs, this.asker.query)
  }

  test(condition: Condition, withKey: boolean, chain: Chain, watch?: Watch) {
    return evaluate(condition, this.reading(withKey, chain.resource.record), watch)
  }

  guardRefuses(guard: Guard, right: 'open' | 'take', chain: Chain): boolean {
    const condition = guard.gate[right]
    if (!condition || !this.applies({ guard })) return false
    const admits = (withKey: boolean) => this.test(condition, withKey, chain) === TRUE
    return !admits(false) && !(this.asker.masterKey && admits(true))
  }

  private reading(withKey: boolean, record: SiteRecord | undefined): Reading {
    return {
      asker: this.asker,
      withKey,
      record,
      audience: () => 1,
      audienceCondition: id => this.rules.audiences.get(id),
      opens: (kind, id) => this.opens(kind, id, withKey),
    }
  }
}

export type { Term }
