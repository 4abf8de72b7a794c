/** Where somebody would land and why: each landing with how it fared, and what is wrong with where it leads. */
import type { Condition } from '../conditions/condition'
import type { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { rightBit } from '../gates/verdict'
import type { Kind, Resource } from '../kinds/kinds'
import type { LandingMoment } from '../rulebook/rulebook'
import type { Visitor } from '../visitor/visitor'
import type { TriWord } from '../tri'
import { isOwnAddress } from '../site/own-addresses'
import { leadsOutside } from '../site/leads'
import { landingOf } from './landing'

export type LandingFate = 'leadsThere' | 'notFor' | 'notKnown' | 'tooLate' | 'inactive' | 'noPath'
export interface ExplainedLanding {
  id: string
  to: string
  fate: LandingFate
  value: TriWord
}
/** Where it leads: to a page, to no page, to one that stays shut, outside what is kept as pages, or to another host. */
export type LandingTarget = 'opens' | 'missing' | 'shut' | 'application' | 'outside' | 'none'
export interface LandingExplanation {
  to: string | null
  landing?: string
  back?: true
  target: LandingTarget
  thing?: Resource
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
  const leadsTo = rules.rulebook.settings?.leadsTo
  const path = refused && rules.index.pathOf(refused.kind as Kind, refused.id)
  const answer = landingOf(landings, {
    on,
    asker: decider.asker,
    admits: condition => decider.admits(condition),
    opens,
    leadsTo,
    ...(refused ? { refused: { resource: refused, path } } : {}),
  })
  const chosen = landingOf(landings, {
    on,
    asker: decider.asker,
    admits: condition => decider.admits(condition),
    opens,
    leadsTo,
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

/** What stands at an address, for whom these things open. */
export function targetOf(
  rules: CompiledRules,
  to: string | null,
  opens: (resource: Resource) => boolean,
): { target: LandingTarget; thing?: Resource } {
  if (to === null) return { target: 'none' }
  if (leadsOutside(to)) return { target: 'outside' }
  const bare = to.split(/[?#]/)[0]!
  const thing = rules.index.at(bare)
  if (thing) return { target: opens(thing) ? 'opens' : 'shut', thing }
  return { target: isOwnAddress(bare) ? 'application' : 'missing' }
}
