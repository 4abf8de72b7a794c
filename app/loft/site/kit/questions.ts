/** What Site asks the core. */
import type { Coverage } from '~~/core/audit/coverage'
import type { InvertedCopies } from '~~/core/audit/inverted-copies'
import type { Explanation } from '~~/core/gates/explain'
import type { Standing } from '~~/core/kinds/block'
import type { Kind, Resource } from '~~/core/kinds/kinds'
import type { PageSource } from '~~/core/pages/made-from/page-source'
import type { WordsSettings } from '~~/core/site-words/site-words'
import type { SiteLook } from '~~/core/site/look'
import type { PageView, SignUpForm } from '~~/core/view/view'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

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
  /** What it says was not read: nobody knows whether whoever writes may look at it. */
  unread?: boolean
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

export interface SiteQuestions {
  /** A page as a tier would be sent it; null where there is no such tier. */
  page(ask: { tier: string; which: Which } & PageAsk): PageAnswer | null
  /** Whether everybody gets exactly one of these parts. */
  coverage(ask: { place: Resource | null; parts: Resource[]; which: Which }): Coverage
  /** Parts that stand there and were copied and inverted by hand. */
  inverted(ask: { place: Standing; which: Which }): InvertedCopies[]
}
export const askSite = askerOf<SiteQuestions>('site')
