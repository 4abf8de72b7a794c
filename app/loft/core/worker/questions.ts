/** What the console tells its core of the site, and what it is told of who reaches what. */
import type { BoardTier, Impact } from '~~/core/audit/reach-board'
import type { SiteFrame, Version } from '~~/core/editions/contents'
import type { Issue } from '~~/core/errors'
import type { Kind, Resource } from '~~/core/kinds/kinds'
import type { AsIf } from '~~/core/visitor/as-if'
import type { Visitor } from '~~/core/visitor/visitor'
import { askerOf } from './ask-core'

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

/** What every room asks. */
export interface WorldQuestions {
  world(ask: World): WorldAnswer
  /** The boards of the world that was told. */
  board(): BoardTold
  /** The draft moved, and nothing else: what it changes now, and what it no longer changes. */
  draft(ask: { put: Version[]; drop: Pick<Version, 'kind' | 'key'>[] }): BoardTold
  /** Positions on the board of things by the words of their names and places, at most so many. */
  find(ask: { text: string; most?: number }): Uint32Array
  /** What versions hold that only somebody admitted is shown. */
  contents(ask: ToldContent[]): void
}
export const askWorld = askerOf<WorldQuestions>('world')
