/**
 * What a page turns on, learned as it is made: everything that was ever asked about a visitor on the way to it. A page
 * is made from the answers and from nothing else, so visitors of whom all of it is answered alike are sent the same
 * page; for them it is found by their answers, without being made, and without reading anything.
 */
import type { Condition } from '../../conditions/condition'
import type { FactGroup } from '../../visitor/fact-group'
import { chainOf } from '../../gates/chain'
import type { Guard } from '../../gates/chain'
import type { CompiledDecider } from '../../gates/compiled-decider'
import { perWeave } from '../../gates/per-weave'
import { rightBit } from '../../gates/verdict'
import { queryFits } from '../../site/path-pattern'
import { PageQuestions } from './questions'
import type { QuestionAsk } from './questions'
import type { Assembled } from '../../view/view'

/** Where what was learned is kept, bounded by whoever keeps it: what a visitor says can be long, and different each time. */
export interface PlanStore<T> {
  get(key: string): T | undefined
  set(key: string, what: T): unknown
}

export class PagePlan<T> {
  private weaves: number[] = []
  private conditions: Condition[] = []
  private questions: string[] = []
  private readonly known = new Set<unknown>()
  private readonly facts = new Set<FactGroup>()
  /** Moves with each question more: without it what was known is not enough to tell visitors apart. */
  private generation = 0

  /** `name`: of this plan in the store, and of no other there ever was. */
  constructor(
    private readonly store: PlanStore<T>,
    private readonly name: string,
  ) {}

  /** What of a visitor it turns on, as far as it was learned. */
  get looks(): ReadonlySet<FactGroup> {
    return this.facts
  }

  /** What was learned for a visitor who is answered as this one; undefined where none was. */
  find(ask: QuestionAsk): T | undefined {
    return this.generation ? this.store.get(this.keyOf(ask)) : undefined
  }

  /** Of a page that was made for this visitor. */
  learn(ask: QuestionAsk, { asked, facts }: Pick<Assembled, 'asked' | 'facts'>, what: T): void {
    for (const fact of facts) this.facts.add(fact)
    const weaves = this.fresh(asked.weaves)
    const conditions = this.fresh(asked.conditions)
    const questions = this.fresh(asked.questions)
    if (!this.generation || weaves.length || conditions.length || questions.length) this.generation++
    this.weaves.push(...weaves)
    this.conditions.push(...conditions)
    this.questions.push(...questions)
    this.store.set(this.keyOf(ask), what)
  }

  private keyOf(ask: QuestionAsk): string {
    return `${this.name}\n${this.generation}\n${this.answers(ask)}`
  }

  private fresh<A>(asked: Iterable<A>): A[] {
    const fresh = [...asked].filter(one => !this.known.has(one))
    for (const one of fresh) this.known.add(one)
    return fresh
  }

  /** One text for all the answers there are. */
  private answers(ask: QuestionAsk): string {
    const { decider, rules } = ask
    let bits = decider.asker.signedIn ? '+' : '-'
    const more: unknown[] = []
    for (const weave of this.weaves) {
      const has = decider.bitsOfWeave(weave)
      bits += String.fromCharCode(48 + has)
      // What the refused get is told by the gates alone and whether they are signed in, but for guards, which may refuse or not.
      if (!(has & rightBit.take)) for (const guard of guardsOf(weave, rules)) bits += refusedBy(guard, decider)
    }
    for (const condition of this.conditions)
      bits += (decider.admits(condition) ? 2 : 0) + (decider.admitsOrKey(condition) ? 1 : 0)
    if (this.questions.length) {
      const questions = new PageQuestions(ask)
      for (const name of this.questions) more.push(questions.answer(name))
    }
    return more.length ? `${bits} ${JSON.stringify(more)}` : bits
  }
}

/** Which of opening and taking a guard refuses, as a digit. */
function refusedBy({ gate, pattern }: Guard, decider: CompiledDecider): number {
  if (!queryFits(pattern.pairs, decider.asker.query)) return 0
  const refuses = (condition: Condition | undefined) => condition !== undefined && !decider.admitsOrKey(condition)
  return (refuses(gate.open) ? 1 : 0) + (refuses(gate.take) ? 2 : 0)
}

const guardsOf = perWeave(
  (weave, rules): readonly Guard[] => chainOf(rules.weaves[weave]!.example, rules.gates, rules.index)?.guards ?? [],
)
