/** What opened things show: the parts of a page's view, and what kinds make theirs with. */
import type { Resource } from '../../core/kinds/kinds'
import type { SiteIndex } from '../../core/site/site-index'
import type { Panel } from '../services/pages/member-panels'

export type ViewBlock =
  | { kind: 'text'; html: string; title: string }
  | { kind: 'picture'; alt: string; caption?: string; src?: string; pattern?: string; palette?: string }
  | { kind: 'call'; title: string; text?: string; label: string; href: string }
  | { kind: 'group'; title: string; blocks: ViewBlock[] }
  | { kind: 'panels'; title: string; blocks: ViewBlock[] }
  | { kind: 'list'; title: string; things: Listed[] }
  | { kind: 'panel'; title: string; text?: string; link?: { label: string; href: string }; panel: Panel }
  | { kind: 'account'; person: { name: string; roles: string; loft: boolean } | null }
  | { kind: 'teaser'; title: string; summary: string; /** Signing in may help: nobody is signed in. */ guest: boolean }
  | { kind: 'notice'; text: string; guest: boolean; link?: string }
  | { kind: 'dimmed'; lines: number }

/** A thing as a list tells of it to whoever may find it. */
export interface Listed {
  title: string
  summary: string
  href: string
  opens: boolean
  price?: string
}

/** What a thing that opened adds to its page. */
export interface Opened {
  blocks: ViewBlock[]
  below?: Listed[]
  price?: string
}

export interface ViewTools {
  index: SiteIndex
  /** Blocks that stand in a thing, as far as they open. */
  blocks(kind: string, id: string): Promise<ViewBlock[]>
  /** Markdown as a block; none for no words. */
  words(markdown: string): ViewBlock[]
  /** Of things those that may be found. */
  list(things: readonly Resource[]): Promise<Listed[]>
  /** An amount in minor units, as people of the site read it. */
  money(minor: number): string
}
