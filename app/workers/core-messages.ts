/** What the console and its core, in a worker, say to each other. */
import type { PageSource } from '~~/core/pages/assemble'
import type { SignUpForm, PageView } from '~~/core/pages/view'
import type { SiteLook } from '~~/core/site/look'
import type { WordsSettings } from '~~/core/site-words/site-words'
import type { BoardTier, Impact } from '~~/core/audit/reach-board'
import type { Explanation } from '~~/core/gates/explain'
import type { Kind, Resource } from '~~/core/kinds/kinds'
import type { SiteFrame, Version } from '~~/core/editions/contents'
import type { LandingMoment } from '~~/core/rulebook/rulebook'
import type { AsIf } from '~~/core/visitor/as-if'
import type { Condition } from '~~/core/conditions/condition'
import type { Giving } from '~~/core/gates/giving'
import type { Visitor } from '~~/core/visitor/visitor'
import type { Finding } from '~~/core/audit/findings/findings'
import type { LandingExplanation } from '~~/core/landings/explain-landing'
import type { Issue } from '~~/core/errors'
import type { ComparedThings } from '~~/core/audit/compare-visitors'
import type { Coverage } from '~~/core/audit/coverage'
import type { InvertedCopies } from '~~/core/audit/inverted-copies'
import type { Standing } from '~~/core/kinds/block'
import type { PricesAnswers, PricesAsk } from './prices-messages'
import type { TaxesAnswers, TaxesAsk } from './taxes-messages'

export type Which = 'live' | 'draft'
/** What every tier's request says; null leaves it as the tier has it. */
export interface Context {
  at: string | null
  country: string | null
  device: string | null
  /** Whom it is looked at as besides the tiers: columns of their own, for a while. */
  looks: LookedAs[]
}
/** A tier, or a real person with what the server says they hold, as if something more were so of them. */
export interface LookedAs {
  /** Its text, as it stands in addresses. */
  id: string
  parts: AsIf[]
  tier?: string
  name?: string
  visitor?: Visitor
}

/** What is live, and the versions the draft puts over it. */
export interface World {
  /** Left out where it goes along as the text it came as. */
  live?: { frame: SiteFrame; versions: Version[] }
  draft: Version[]
  context: Context
}

/** What only somebody admitted is shown of a version, as the server tells it to staff. */
export interface ToldContent {
  id: number
  revision: number
  /** Null where it is not told to them. */
  content: Record<string, unknown> | null
}
export interface PageAsk {
  path: string
  /** Parts that are typed and not kept yet. */
  typed: { kind: string; key: string; content: Record<string, unknown> }[]
  /** Which one of several is looked at, by what they stand in. */
  picked: Record<string, string>
  /** What the site says of itself, and how it looks. */
  words?: WordsSettings
  look?: SiteLook
  /** What signing up asks, and what can be applied for. */
  signUp?: SignUpForm
  forms?: PageSource['forms']
}
/** How a part fares with whoever is looked as. */
export interface PartNote {
  id: string
  opens: boolean
  /** Something stands in its place, itself or another. */
  sent: boolean
  explanation: Explanation | null
}
export interface PageAnswer {
  view: PageView
  /** What it would be if it opened. */
  whole?: PageView
  redirect?: string
  refused: boolean
  /** What is at the address. */
  thing: Resource | null
  explanation: Explanation | null
  parts: PartNote[]
  /** Versions whose content must be told before the page is whole. */
  missing: { kind: Kind; key: string; id: number }[]
}

export type Ask =
  | PricesAsk
  | TaxesAsk
  | { kind: 'world'; world: World }
  /** The boards of the world that was told. */
  | { kind: 'board' }
  /** The draft moved, and nothing else: what it changes now, and what it no longer changes. */
  | { kind: 'draft'; put: Version[]; drop: Pick<Version, 'kind' | 'key'>[] }
  /** Things by the words of their names and places, at most so many. */
  | { kind: 'find'; text: string; most?: number }
  | { kind: 'explain'; resource: Resource; tier: string; which: Which }
  /** Gates that change nothing of who finds and opens it. */
  | { kind: 'idle'; resource: Resource; which: Which }
  /** What a tier that is refused lacks. */
  | { kind: 'ways'; resource: Resource; tier: string; which: Which }
  /** What each change alone would move, on top of what is live; and all that are chosen together. */
  | { kind: 'weigh'; changes: Version[]; chosen: string[] }
  | { kind: 'person'; visitor: Visitor; which: Which }
  | { kind: 'explainFor'; resource: Resource; visitor: Visitor; which: Which }
  /** What would give a thing of the draft to whoever is `who`, as `visitor` is. */
  | { kind: 'giving'; resource: Resource; who: Condition; visitor: Visitor; newId: string; name: string }
  | { kind: 'gains'; from: Visitor; to: Visitor; which: Which }
  | ({ kind: 'pageView'; tier: string; which: Which } & PageAsk)
  | { kind: 'contents'; contents: ToldContent[] }
  /** Whether everybody gets exactly one of these parts. */
  | { kind: 'coverage'; place: Resource | null; parts: Resource[]; which: Which }
  /** Parts that stand there and were copied and inverted by hand. */
  | { kind: 'inverted'; place: Standing; which: Which }
  /** What two of the tiers or looks find, open and take that the other does not: of everything, of a kind, or in a thing. */
  | { kind: 'compare'; one: string; two: string; which: Which; of: Kind | ''; within: Resource | null; text: string }
  | { kind: 'landings'; which: Which; visitor: Visitor | null; on: LandingMoment; refused: Resource | null }

/** Rights by weave, since a hundred thousand things share a few of them. */
export interface Cells {
  /** The weave of each thing; below 0 for one that is not there. */
  weaves: Int32Array
  /** Rights of weave `w` for tier `t` at `w * tiers + t`. */
  byWeave: Uint8Array
  /** Rights by tier of things that are decided alone, by position. */
  items: ReadonlyMap<number, Uint8Array>
}

/** By kind, then by tier: `[unseen, glimpse, open, take]`. */
export type Shares = Partial<Record<Kind, number[][]>>

/** The boards, as a screen keeps them. */
export interface BoardAnswer {
  tiers: BoardTier[]
  things: Resource[]
  live: Cells
  draft: Cells
  weaveCount: number
  /** How many things of each kind each tier leaves unseen, glimpses, opens and takes. */
  shares: Record<Which, Shares>
  impact: Impact
  issues: Issue[]
  /** How long the boards took, in milliseconds. */
  tookMs: number
}
/** Whom a world is looked at as. */
export interface WorldAnswer {
  tiers: BoardTier[]
}
/** What goes over: null where it is what was told before. */
export type BoardTold = Omit<BoardAnswer, 'things' | 'live' | 'draft' | 'shares'> & {
  things: Resource[] | null
  live: Cells | null
  draft: Omit<Cells, 'weaves'> & { weaves: Int32Array | null }
  shares: { live: Shares | null; draft: Shares }
}

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
/** With how many things the wider of the two ways would open to them besides. */
export type GivingAnswer = Giving & { besides?: number }
export interface GainsAnswer {
  gained: { resource: Resource; before: number; after: number }[]
  lost: number
}
export interface CompareAnswer {
  /** Positions are the board's. */
  groups: ComparedThings[]
  /** How many things were asked about. */
  among: number
}
export interface LandingsAnswer {
  findings: Finding[]
  explanation: LandingExplanation | null
}

export interface Answers extends PricesAnswers, TaxesAnswers {
  world: WorldAnswer
  board: BoardTold
  draft: BoardTold
  explain: Explanation | null
  idle: string[]
  ways: AsIf[][]
  explainFor: Explanation | null
  weigh: WeighAnswer
  /** Positions on the board. */
  find: Uint32Array
  person: PersonAnswer
  giving: GivingAnswer
  gains: GainsAnswer
  landings: LandingsAnswer
  compare: CompareAnswer | null
  pageView: PageAnswer | null
  contents: null
  coverage: Coverage
  inverted: InvertedCopies[]
}
export type Answered<A extends Ask = Ask> = A extends { kind: infer K extends keyof Answers } ? Answers[K] : never
