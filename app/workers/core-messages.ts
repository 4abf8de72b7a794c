/** What the console and its core, in a worker, say to each other. */
import type { BoardTier, Impact } from '~~/core/audit/reach-board'
import type { Explanation } from '~~/core/gates/explain'
import type { Resource } from '~~/core/rulebook/kinds'
import type { EntryKind, LandingMoment, Rulebook } from '~~/core/rulebook/rulebook'
import type { Visitor } from '~~/core/rulebook/visitor'
import type { LandingExplanation, LandingFinding } from '~~/core/landings/explain-landing'
import type { Site } from '~~/core/site/site'
import type { Issue } from '~~/core/errors'

export type Which = 'live' | 'draft'
/** What every tier's request says; null leaves it as the tier has it. */
export interface Context {
  at: string | null
  country: string | null
  device: string | null
}

export interface World {
  site: Site
  live: Rulebook
  draft: Rulebook
  context: Context
}
export interface Change {
  kind: EntryKind
  key: string
  before: unknown
  after: unknown
}

export type Ask =
  | { kind: 'world'; world: World }
  | { kind: 'explain'; resource: Resource; tier: string; which: Which }
  | { kind: 'weigh'; changes: Change[] }
  | { kind: 'person'; visitor: Visitor; which: Which }
  | { kind: 'explainFor'; resource: Resource; visitor: Visitor; which: Which }
  | { kind: 'gains'; from: Visitor; to: Visitor; which: Which }
  | { kind: 'landings'; which: Which; visitor: Visitor | null; on: LandingMoment; refused: Resource | null }

export interface BoardAnswer {
  tiers: BoardTier[]
  things: Resource[]
  /** Rights of thing `i` for tier `t` at `i * tiers.length + t`. */
  live: Uint8Array
  draft: Uint8Array
  /** The weave of each thing in the draft. */
  weaves: Int32Array
  weaveCount: number
  impact: Impact
  issues: Issue[]
  /** How long the boards took, in milliseconds. */
  tookMs: number
}

/** What one visitor reaches: rights of thing `i` of the board. */
export interface PersonAnswer {
  things: Resource[]
  bits: Uint8Array
  landing: LandingExplanation
}
export interface GainsAnswer {
  gained: { resource: Resource; before: number; after: number }[]
  lost: number
}
export interface LandingsAnswer {
  findings: LandingFinding[]
  explanation: LandingExplanation | null
}

export interface Answers {
  world: BoardAnswer
  explain: Explanation | null
  explainFor: Explanation | null
  weigh: Impact[]
  person: PersonAnswer
  gains: GainsAnswer
  landings: LandingsAnswer
}
export type Answered<A extends Ask = Ask> = A extends { kind: infer K extends keyof Answers } ? Answers[K] : never
