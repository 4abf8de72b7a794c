/** What is asked of the core to show a page of the site within the console. */
import type { Explanation } from '~~/core/gates/explain'
import type { OwnShown } from '~~/core/kinds/block'
import type { Kind, Resource } from '~~/core/kinds/kinds'
import type { PageSource } from '~~/core/pages/made-from/page-source'
import type { WordsSettings } from '~~/core/site-words/site-words'
import type { SiteLook } from '~~/core/site/look'
import type { PageView, SignUpForm } from '~~/core/view/view'
import { askerOf } from '~/loft/core/worker/ask-core'
import type { Which } from '~/loft/core/worker/questions'

export interface PageAsk {
  path: string
  /** The page of the application's own this is the frame of. */ own?: OwnShown
  /** In this language, whatever the address says. */ language?: string
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

export interface SheetQuestions {
  /** A page as a tier would be sent it; null where there is no such tier. */
  page(ask: { tier: string; which: Which } & PageAsk): PageAnswer | null
  /** What signing up asks of a tier. */
  form(ask: { tier: string; form: SignUpForm }): SignUpForm
}
export const askSheet = askerOf<SheetQuestions>('sheet')
