/** Decides for one visitor over compiled rules, remembering what it has answered. Equal to `PlainDecider`, by test. */
import { Asker } from '../visitor/asker'
import type { CompiledAsking } from '../conditions/compile'
import type { Condition } from '../conditions/condition'
import { noticedKinds } from '../kinds/kinds'
import type { Kind, Resource, SiteRecord } from '../kinds/kinds'
import type { FactGroup } from '../visitor/fact-group'
import type { Visitor } from '../visitor/visitor'
import { TRUE } from '../tri'
import type { Tri } from '../tri'
import type { CompiledRules, Weave } from './compiled'
import { answerOfNowhere } from './nowhere'
import type { Answer } from './otherwise'
import type { Guard } from './chain'
import type { Treatment } from '../rulebook/gate'
import { PlainDecider } from './plain-decider'
import { gaveCode } from '../visitor/given-code'
import { queryFits } from '../site/path-pattern'
import { canBeTaken, hasPrice, masterKeyBit, rightBit, verdictOf } from './verdict'
import type { Verdict } from './verdict'

const unasked = 255
const grantedShift = 6
const inProgress = -2
const open = rightBit.open

export class CompiledDecider implements CompiledAsking {
  readonly asker: Asker
  record: SiteRecord | undefined
  private answers: Uint8Array
  /** Per weave: plain bits below, granted bits above `grantedShift`; -1 not asked yet. */
  private verdicts: Int32Array
  private withKey = false
  private plain: PlainDecider | undefined
  private watched:
    | { facts: Set<FactGroup>; weaves: Set<number>; conditions: Set<Condition>; codes: Set<string>; place: boolean }
    | undefined

  /** `nowMs` (milliseconds since 1970) counts where the visitor names no time. */
  constructor(
    readonly rules: CompiledRules,
    readonly visitor: Visitor,
    private readonly nowMs: number,
  ) {
    this.asker = new Asker(visitor, rules.holdings, nowMs)
    this.answers = new Uint8Array(rules.slots.slots.length).fill(unasked)
    this.verdicts = new Int32Array(rules.weaves.length).fill(-1)
  }

  /** The same visitor, of whom more is known. */
  withFacts(facts: NonNullable<Visitor['facts']>): CompiledDecider {
    return new CompiledDecider(this.rules, { ...this.visitor, facts: { ...this.visitor.facts, ...facts } }, this.nowMs)
  }

  /** The same visitor, whose request says something else. */
  withRequest(request: NonNullable<Visitor['request']>): CompiledDecider {
    const { visitor } = this
    return this.alike({ ...visitor, request: { ...visitor.request, ...request } })
  }

  /** The same visitor, with this in their basket. */
  withBasket(basket: NonNullable<Visitor['basket']>): CompiledDecider {
    return this.alike({ ...this.visitor, basket })
  }

  /** What it looks for in vain, this one has looked for. */
  private alike(visitor: Visitor): CompiledDecider {
    const made = new CompiledDecider(this.rules, visitor, this.nowMs)
    made.asker.missed = this.asker.missed
    return made
  }

  /** What notes are made in now: whatever is remembered elsewhere holds only while this is the same. */
  get watching(): object | undefined {
    return this.watched
  }

  /** The same as `bits`, for a weave whose number is known. */
  watchedBits(weave: number): number {
    if (weave < 0) return 0
    if (this.watched) this.note(weave)
    return withKeyMark(this.both(weave))
  }

  /**
   * Notes from now on which parts of the request answers depend on, until it is called again: whatever
   * asks this decider need not say so itself. The set grows with each question.
   */
  watch(): ReadonlySet<FactGroup> {
    this.watched = { facts: new Set(), weaves: new Set(), conditions: new Set(), codes: new Set(), place: false }
    return this.watched.facts
  }

  /** What was asked since then: weaves, by number, conditions, offers whose code, and where they are. It grows with each question. */
  watchedQuestions(): {
    weaves: ReadonlySet<number>
    conditions: ReadonlySet<Condition>
    codes: ReadonlySet<string>
    place: boolean
  } {
    return this.watched ?? { weaves: new Set(), conditions: new Set(), codes: new Set(), place: false }
  }

  private note(weave: number): void {
    if (!this.watched || this.watched.weaves.has(weave)) return
    this.watched.weaves.add(weave)
    for (const fact of this.rules.factsOfWeave(weave)) this.watched.facts.add(fact)
  }

  /** Whether the visitor is signed in. */
  get signedIn(): boolean {
    this.watched?.facts.add('person')
    return this.asker.signedIn
  }

  /** Whether they gave an offer its code, which is told apart by cookie, as a basket is. `code`: folded. */
  gaveCode(offer: string, code: string): boolean {
    this.watched?.facts.add('basket')
    this.watched?.codes.add(offer)
    return gaveCode(this.visitor, this.asker.at, offer, code)
  }

  /** Notes that something told beside the answers depends on this part of who asks. */
  turnsOn(fact: FactGroup): void {
    this.watched?.facts.add(fact)
  }

  /** Country and region of the request, as far as they are known. */
  get whereabouts(): { country?: string | undefined; region?: string | undefined } {
    if (this.watched) {
      this.watched.facts.add('country')
      this.watched.place = true
    }
    const { country, region } = this.asker.request
    return { country, region }
  }

  /** The language the browser likes best, where it says. */
  get language(): string | undefined {
    this.watched?.facts.add('language')
    return this.asker.request.language
  }

  /** Whoever it is, for words that are theirs alone; null for a guest. */
  get person(): Visitor['person'] {
    this.watched?.facts.add('person')
    return this.visitor.person ?? null
  }

  /** Rights as `rightBit`s, with `masterKeyBit` where the key was what admitted. */
  bits(resource: Resource): number {
    const weave = this.rules.weaveOf(resource)
    if (weave < 0) return 0
    if (this.watched) this.note(weave)
    this.record = resource.record
    return withKeyMark(this.both(weave))
  }

  /** The same for a weave, when its number is known. Weaves that look at a record are asked by resource. */
  bitsOfWeave(weave: number): number {
    return weave < 0 ? 0 : withKeyMark(this.both(weave))
  }

  decide(resource: Resource): Verdict {
    const verdict = verdictOf(this.bits(resource))
    if (verdict.open && (!noticedKinds.has(resource.kind) || verdict.take)) return verdict
    // What the refused get depends on whether they are signed in.
    this.watched?.facts.add('person')
    // Refusals are rare and their answers are few: the plain reading picks them.
    const { otherwise, takeNotice } = this.plainly.decide(resource)
    return { ...verdict, ...(otherwise ? { otherwise } : {}), ...(takeNotice ? { takeNotice } : {}) }
  }

  /** What an address at which nothing stands answers: by guards, asked as everything else is, by what is said for all, and by whether they are signed in. */
  atNowhere(path: string): Answer<Treatment> {
    this.watched?.facts.add('person')
    return answerOfNowhere(path, this.rules, guard => this.refusesAt(guard), this.asker.signedIn)
  }

  /** Whether a guard refuses to open. */
  refusesAt({ gate: { open }, pattern: { pairs } }: Guard): boolean {
    if (!open) return false
    if (pairs.length) this.watched?.facts.add('query')
    return queryFits(pairs, this.asker.query) && !this.admitsOrKey(open)
  }

  get plainly(): PlainDecider {
    return (this.plain ??= new PlainDecider(this.rules, this.visitor, this.nowMs))
  }

  admits(condition: Condition): boolean {
    if (this.watched && !this.watched.conditions.has(condition)) {
      this.watched.conditions.add(condition)
      for (const fact of this.rules.factsOfCondition(condition)) this.watched.facts.add(fact)
    }
    return this.slot(this.rules.slots.slotOf(condition, 'plain')) === TRUE
  }

  /** The same, with the master key where one is held. */
  admitsOrKey(condition: Condition): boolean {
    if (this.admits(condition)) return true
    return this.asker.masterKey && this.slot(this.rules.slots.slotOf(condition, 'key')) === TRUE
  }

  audience(): Tri {
    return 1
  }

  /** The one of several that stand in a thing of their own kind which is shown: the first that opens. */
  shows({ kind, id }: Resource): string | null {
    const inside = this.rules.index.standingIn(kind, id)
    // Which one shows depends on all of them: on those before it, which do not open, and for others on those after.
    if (this.watched) for (const child of inside) this.note(this.rules.weaveOf({ kind, id: child.id }))
    return inside.find(child => this.bits({ kind, id: child.id }) & open)?.id ?? null
  }

  opens(kind: Kind, id: string): boolean {
    const weave = this.rules.weaveOf({ kind, id })
    if (weave < 0) return false
    const [before, withKey] = [this.record, this.withKey]
    this.record = undefined
    const both = this.both(weave)
    this.record = before
    this.withKey = withKey
    return ((withKey ? both >> grantedShift : both) & open) !== 0
  }

  slot(number: number): Tri {
    const { slots } = this.rules.slots
    if (number >= this.answers.length) this.answers = grown(this.answers, slots.length, unasked)
    const known = this.answers[number]!
    if (known !== unasked) return known as Tri
    const slot = slots[number]!
    const before = this.withKey
    this.withKey = slot.mode !== 'plain'
    const value = slot.test(this)
    this.withKey = before
    if (!slot.perRecord) this.answers[number] = value
    return value
  }

  private both(number: number): number {
    if (number >= this.verdicts.length) this.verdicts = grown(this.verdicts, this.rules.weaves.length, -1)
    const known = this.verdicts[number]!
    if (known >= 0) return known
    if (known === inProgress) return 0
    this.verdicts[number] = inProgress
    const weave = this.rules.weaves[number]!
    const value = this.decideWeave(weave)
    this.verdicts[number] = weave.perRecord ? -1 : value
    return value
  }

  private decideWeave(weave: Weave): number {
    const place =
      weave.standsIn === -1 ? open | (open << grantedShift) : weave.standsIn === -2 ? 0 : this.both(weave.standsIn)
    const plain = this.own(weave, false)
    const granted = this.asker.masterKey ? plain | this.own(weave, true) : plain
    return (
      joined(weave.kind, plain, (place & open) !== 0) |
      (joined(weave.kind, granted, ((place >> grantedShift) & open) !== 0) << grantedShift)
    )
  }

  private own(weave: Weave, withKey: boolean): number {
    let bits = weave.free
    for (const right of weave.rights) if (this.admitsRight(right, withKey)) bits |= right.bits
    return bits
  }

  private admitsRight(right: Weave['rights'][number], withKey: boolean): boolean {
    const slots = withKey ? right.key : right.plain
    for (let i = 0; i < slots.length; i++) if (this.slot(slots[i]!) !== TRUE) return false
    for (const guard of right.guards) {
      if (queryFits(guard.pairs, this.asker.query) && this.slot(withKey ? guard.key : guard.plain) !== TRUE)
        return false
    }
    return true
  }
}

/** `combine` of the verdict, on bits. */
function joined(kind: Kind, own: number, placeOpens: boolean): number {
  if (!placeOpens) return 0
  let bits = own & (rightBit.find | open)
  if (bits & rightBit.find) bits |= own & rightBit.search
  if (!(bits & open)) return bits
  if (hasPrice(kind)) bits |= own & rightBit.price
  if (canBeTaken(kind) && (bits & rightBit.price || !hasPrice(kind))) bits |= own & rightBit.take
  return bits
}

function withKeyMark(both: number): number {
  const granted = both >> grantedShift
  return granted & ~both ? granted | masterKeyBit : granted
}

function grown<T extends Uint8Array | Int32Array>(list: T, size: number, filler: number): T {
  const larger = new (list.constructor as new (size: number) => T)(Math.max(size, list.length)).fill(filler) as T
  larger.set(list)
  return larger
}
