/** Where somebody would land and why: each landing with how it fared, and what is wrong with where it leads. */
import type { Condition } from '../conditions/condition'
import type { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { rightBit } from '../gates/verdict'
import type { Kind, Resource } from '../rulebook/kinds'
import type { LandingMoment } from '../rulebook/rulebook'
import type { Visitor } from '../rulebook/visitor'
import type { TriWord } from '../tri'
import { isOwnAddress } from '../site/own-addresses'
import { landingOf } from './landing'

export type LandingFate = 'leadsThere' | 'notFor' | 'notKnown' | 'tooLate' | 'inactive' | 'noPath'
export interface ExplainedLanding {
  id: string
  to: string
  fate: LandingFate
  value: TriWord
}
/** Where it leads: to a page, to no page, to one that stays shut, or outside what is kept as pages. */
export type LandingTarget = 'opens' | 'missing' | 'shut' | 'application' | 'none'
export interface LandingExplanation {
  to: string | null
  landing?: string
  back?: true
  target: LandingTarget
  page?: string
  steps: ExplainedLanding[]
}

export function explainLanding(
  rules: CompiledRules,
  visitor: Visitor,
  on: LandingMoment,
  nowMs: number,
  refused?: Resource,
): LandingExplanation {
  const decider = new CompiledDecider(rules, visitor, nowMs)
  const value = (condition: Condition): TriWord =>
    decider.admits(condition) ? true : decider.admits({ not: condition }) ? false : 'unknown'
  const opens = (resource: Resource) => (decider.bits(resource) & rightBit.open) !== 0
  const landings = rules.rulebook.landings ?? []
  const path = refused && rules.index.pathOf(refused.kind as Kind, refused.id)
  const answer = landingOf(landings, {
    on,
    asker: decider.asker,
    admits: condition => decider.admits(condition),
    opens,
    ...(refused ? { refused: { resource: refused, path } } : {}),
  })
  const chosen = landingOf(landings, {
    on,
    asker: decider.asker,
    admits: condition => decider.admits(condition),
    opens,
  }).landing
  let passed = false
  const steps = landings
    .filter(one => one.on === on)
    .map((one): ExplainedLanding => {
      const found = value(one.for)
      const fate: LandingFate =
        one.active === false
          ? 'inactive'
          : found === 'unknown'
            ? 'notKnown'
            : !found
              ? 'notFor'
              : one.id === chosen
                ? 'leadsThere'
                : passed
                  ? 'tooLate'
                  : 'noPath'
      passed ||= one.id === chosen
      return { id: one.id, to: one.to, fate, value: found }
    })
  return {
    to: answer.to,
    ...(answer.landing ? { landing: answer.landing } : {}),
    ...(answer.back ? { back: true as const } : {}),
    steps,
    ...targetOf(rules, answer.to, opens),
  }
}

function targetOf(
  rules: CompiledRules,
  to: string | null,
  opens: (resource: Resource) => boolean,
): { target: LandingTarget; page?: string } {
  if (to === null) return { target: 'none' }
  const bare = to.split(/[?#]/)[0]!
  const page = (rules.index.site.pages ?? []).find(one => one.path === bare)
  if (page) return { target: opens({ kind: 'page', id: page.id }) ? 'opens' : 'shut', page: page.id }
  return { target: isOwnAddress(bare) ? 'application' : 'missing' }
}

export interface LandingFinding {
  landing: string
  to: string
  on: LandingMoment
  target: 'missing' | 'shut'
  /** An example visitor. */ tier: string
}

/** Tiers that would land on a page that is not there, or that they cannot open; each landing once per kind of trouble. */
export function landingFindings(
  rules: CompiledRules,
  tiers: readonly { id: string; visitor: Visitor }[],
  nowMs: number,
): LandingFinding[] {
  const found = new Map<string, LandingFinding>()
  for (const on of ['signIn', 'signUp', 'signOut'] as const)
    for (const tier of tiers) {
      if (!tier.visitor.person) continue
      const { landing, to, target } = explainLanding(rules, tier.visitor, on, nowMs)
      // Whoever signed out is a guest by then.
      const real =
        on === 'signOut' && to !== null
          ? targetOf(
              rules,
              to,
              resource => (new CompiledDecider(rules, { person: null }, nowMs).bits(resource) & rightBit.open) !== 0,
            ).target
          : target
      if (!landing || to === null || (real !== 'missing' && real !== 'shut')) continue
      const key = `${landing} ${real}`
      if (!found.has(key)) found.set(key, { landing, to, on, target: real, tier: tier.id })
    }
  return [...found.values()]
}
