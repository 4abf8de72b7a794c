/** Every finding. Adding one is a module and a line here; then the compiler names every other list that lacks it. */
import type { FindingAsk, FindingModule, Found } from './finding'
import { landingNowhere } from './landing-nowhere'
import { landingShut } from './landing-shut'

export const findingModules = {
  'landing-nowhere': landingNowhere,
  'landing-shut': landingShut,
} as const

export type FindingCode = keyof typeof findingModules
export type FactsOfFinding<C extends FindingCode> =
  (typeof findingModules)[C] extends FindingModule<infer F> ? F : never
export type Finding = { [C in FindingCode]: { code: C } & Found<FactsOfFinding<C>> }[FindingCode]

/** All that is found, by code in the order of the list. */
export const findingsOf = (ask: FindingAsk): Finding[] =>
  Object.entries(findingModules).flatMap(([code, { find }]) => find(ask).map(found => ({ code, ...found }) as Finding))
