/** What a view is made from besides rules: where contents are read from is the caller's. */
import type { PanelSort } from '../../blocks/panel-sorts'
import type { Condition } from '../../conditions/condition'
import type { CompiledRules } from '../../gates/compiled'
import type { CompiledDecider } from '../../gates/compiled-decider'
import type { OwnShown } from '../../kinds/block'
import type { Kind, Resource } from '../../kinds/kinds'
import type { SiteWords, WordsSettings } from '../../site-words/site-words'
import type { SiteLook } from '../../site/look'
import type { Rendering } from '../../texts/passages'
import type { Panel } from '../../view/panel'
import type { PageView, SignUpForm, ViewBlock } from '../../view/view'

/** Words that are a visitor's own: the view has a mark for each, filled in what is sent. */
export type SlotName = 'name' | 'roles' | 'levels' | 'firm' | 'back' | 'basket'

/** What a view is made from besides rules. */
export interface PageSource {
  /** Makes sure that the contents of these things are known, in one question. */
  read(things: readonly Resource[]): Promise<void>
  /** What only somebody admitted is shown of a thing, once it was read; nothing where it may not be known. */
  content(kind: Kind, id: string): Record<string, unknown> | undefined
  /** A text as HTML. */
  text(markdown: string, rendering: Rendering): string
  /** Whom the passages of a text are for; null where the text is kept from everybody. Default: as it was kept. */
  passages?(thing: Resource): readonly (Condition | null)[] | null | undefined
  mark(name: SlotName): string
  /** What a panel says of the visitor; null where it has nothing to show. */
  panel(shows: PanelSort, tools: { href: (path: string) => string; words: SiteWords }): Promise<Panel | null>
  /** Levels and roles that can be applied for, and where. */
  /** What signing up asks. Default: nothing but a name, an address and a password. */
  signUp?: SignUpForm
  /** Where a stored picture of a thing is served. Default: at its address on the site. */
  picture?(thing: Resource, name: string): string
  /** How the site looks. Default: as it comes. */
  look?: SiteLook | undefined
  /** What the operator says in place of the site's usual words. */
  words?: WordsSettings | undefined
  /** Of these languages the one the browser likes best. Default: by the one it names first. */
  spoken?(offered: readonly string[]): string | undefined
  forms: readonly { path: string; about: { kind: 'level' | 'role'; id: string; called: string } }[]
}

/** A block while the page is written: whether it opens, what is sent for it, and what would be if it did. */
export interface MarkedBlock {
  id: string
  opens: boolean
  sent: ViewBlock[]
  whole(): Promise<ViewBlock[]>
}

export interface Writing {
  /** Puts a mark around each block. */
  mark(block: MarkedBlock): Promise<ViewBlock[]>
  /** Which one of several is looked at, by what they stand in; else the one the visitor gets. */
  picked: Readonly<Record<string, string>>
}

export interface AssembleAsk {
  rules: CompiledRules
  decider: CompiledDecider
  source: PageSource
  path: string
  base?: string | undefined
  walked?: PageView['walked']
  /** The name of a deed just done, told once. */
  done?: string | undefined
  /** Where somebody was refused before they came to sign in: a path of the site. */
  back?: string | undefined
  /** The site's own page this is the frame of. */
  own?: OwnShown | undefined
  /** For whoever writes the page, and never for a visitor. */
  writing?: Writing
}
