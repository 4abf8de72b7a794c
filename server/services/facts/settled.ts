/**
 * Decides with what services outside say, where a decision turns on it: first with what is known, and again once those
 * facts that were looked for and not there have been asked for. Nobody waits for a service no gate of the page asks of.
 */
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { CompiledRules } from '../../../core/gates/compiled'
import type { Visitor } from '../../../core/visitor/visitor'
import { askService } from './services'
import type { ServiceFact } from './services'

/** With each answer a rule may look further, for another fact. */
const mostRounds = 4

export async function settled<T>(
  decider: CompiledDecider,
  work: (decider: CompiledDecider) => Promise<T>,
): Promise<{ result: T; decider: CompiledDecider }> {
  let at = decider
  const asked = new Set<string>()
  for (let round = 1; ; round++) {
    const result = await work(at)
    const missed = [...at.asker.missed].filter(id => !asked.has(id))
    if (!missed.length || round === mostRounds) return { result, decider: at }
    for (const id of missed) asked.add(id)
    const found = await factsOfServices(at.rules, at.visitor, missed)
    if (!Object.keys(found).length) return { result, decider: at }
    at = at.withFacts(found)
  }
}

async function factsOfServices(rules: CompiledRules, visitor: Visitor, ids: readonly string[]) {
  const facts = (rules.rulebook.facts ?? []).filter(
    (fact): fact is typeof fact & ServiceFact =>
      ids.includes(fact.id) && fact.from !== undefined && 'service' in fact.from,
  )
  const { person, firm, request } = visitor
  const known = {
    person: person?.id,
    email: person?.email,
    firm: person && firm ? firm : undefined,
    country: request?.country,
    language: request?.language,
  }
  const answers = await Promise.all(facts.map(async fact => [fact.id, (await askService(fact, known)).value] as const))
  return Object.fromEntries(answers.filter(([, value]) => value !== undefined))
}
