/** What the console and its core, in a worker, say to each other. */
import type { BoardTier, Impact } from '~~/core/audit/reach-board'
import type { Explanation } from '~~/core/gates/explain'
import type { Resource } from '~~/core/kinds/kinds'
import type { SiteFrame, Version } from '~~/core/editions/contents'
import type { LandingMoment } from '~~/core/rulebook/rulebook'
import type { Visitor } from '~~/core/visitor/visitor'
import type { Finding } from '~~/core/audit/findings/findings'
import type { LandingExplanation } from '~~/core/landings/explain-landing'
import type { Issue } from '~~/core/errors'

export type Which = 'live' | 'draft'
/** What every tier's request says; null leaves it as the tier has it. */
export interface Context {
  at: string | null
  country: string | null
  device: string | null
}

/** What is live, and the versions the draft puts over it. */
export interface World {
  frame: SiteFrame
  versions: Version[]
  draft: Version[]
  context: Context
}

export type Ask =
  | { kind: 'world'; world: World }
  /** The draft moved, and nothing else. */
  | { kind: 'draft'; draft: Version[] }
  | { kind: 'explain'; resource: Resource; tier: string; which: Which }
  /** What each change alone would move, on top of what is live; and all that are chosen together. */
  | { kind: 'weigh'; changes: Version[]; chosen: string[] }
  | { kind: 'person'; visitor: Visitor; which: Which }
  | { kind: 'explainFor'; resource: Resource; visitor: Visitor; which: Which }
  | { kind: 'gains'; from: Visitor; to: Visitor; which: Which }
  | { kind: 'landings'; which: Which; visitor: Visitor | null; on: LandingMoment; refused: Resource | null }

/** The boards, as a screen keeps them. */
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
/** What goes over: null where it is what was told before. */
export type BoardTold = Omit<BoardAnswer, 'things' | 'live'> & { things: Resource[] | null; live: Uint8Array | null }

export interface WeighAnswer {
  each: Impact[]
  chosen: Impact
  /** Names of what goes only together with what is chosen. */
  together: string[]
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
  findings: Finding[]
  explanation: LandingExplanation | null
}

export interface Answers {
  world: BoardTold
  draft: BoardTold
  explain: Explanation | null
  explainFor: Explanation | null
  weigh: WeighAnswer
  person: PersonAnswer
  gains: GainsAnswer
  landings: LandingsAnswer
}
export type Answered<A extends Ask = Ask> = A extends { kind: infer K extends keyof Answers } ? Answers[K] : never
