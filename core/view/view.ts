/** What one visitor is sent for one address, and what kinds of thing make their part of it with. */
import type { Kind, Resource } from '../kinds/kinds'
import type { SiteIndex } from '../site/site-index'
import type { Condition } from '../conditions/condition'
import type { FactGroup } from '../visitor/fact-group'
import type { Panel } from './panel'
import type { GoodsShown, PriceShown, ShelfShown } from './shelf-shown'
import type { Way } from './way'
import type { markOf, Typeface } from '../site/look'
import type { ShownPicture } from '../pictures/picture-file'
import type { SiteWords } from '../site-words/site-words'

/** A picture as it is seen: a stored one, one from an address, or a woven pattern. */
export interface Sight {
  alt: string
  src?: string
  srcset?: string
  width?: number
  height?: number
  pattern?: string
  palette?: string
}

export type ViewBlock =
  | { kind: 'text'; html: string; title: string }
  | ({ kind: 'picture'; caption?: string } & Sight)
  | { kind: 'call'; title: string; text?: string; label: string; href?: string }
  | { kind: 'group'; title: string; blocks: ViewBlock[] }
  | { kind: 'panels'; title: string; blocks: ViewBlock[]; most?: { screen?: number; tablet?: number; phone?: number } }
  | { kind: 'list'; title: string; things: Listed[] }
  /** Goods as cards. `shelf`: how they are sorted and narrowed down, where that can be chosen. */
  | { kind: 'goods'; title: string; things: Listed[]; shelf?: ShelfShown }
  /** The code of an offer; without one, one of the visitor's own is asked for. `given`: they gave it already. */
  | { kind: 'code'; title: string; text?: string; offer: string; code?: string; given?: true; action?: string }
  | { kind: 'files'; title: string; files: ListedFile[] }
  | { kind: 'search'; title: string; action: string; asked?: SearchShown }
  | {
      kind: 'panel'
      title: string
      text?: string
      /** At its head, for the eye alone. */ picture?: ShownPicture | { pattern: string; palette: string }
      link?: { label: string; href: string }
      panel: Panel
    }
  | { kind: 'account'; person: { name: string; roles: string; loft: boolean } | null }
  | { kind: 'signIn'; title: string; text?: string }
  | { kind: 'signUp'; title: string; text?: string; form: SignUpForm }
  | { kind: 'menu'; title: string; items: ViewItem[] }
  | {
      kind: 'teaser'
      title: string
      summary: string
      /** Signing in may help: nobody is signed in. */ guest: boolean
      ways?: Way[]
    }
  | {
      kind: 'notice'
      /** What its link is called. Default: as the site says it. */
      words?: string
      text: string
      guest: boolean
      link?: string
      ways?: Way[]
      /** What the ways lead to. Default: that it opens. */ to?: 'price' | 'take'
    }
  | {
      kind: 'dimmed'
      lines: number
      title?: string
      /** The first of its words. */ words?: string
      label?: string
      /** The outline of one. */ picture?: true
      /** The picture itself. */ sight?: Sight
    }
  /** Another look, for some of those who get it. */
  | { kind: 'accent'; look: string; blocks: ViewBlock[] }
  /**
   * Around a block while the page is written: what is sent for it, and, where that is not the block itself, what it
   * would be. No visitor is ever sent one.
   */
  | { kind: 'part'; id: string; blocks: ViewBlock[]; whole?: ViewBlock[] }

/** What the form for signing up asks. */
export interface SignUpForm {
  mode: 'open' | 'invitation' | 'closed'
  facts: FactAsked[]
}
export interface FactAsked {
  id: string
  name: string
  type: string
  choices: string[]
  required: boolean
  /** Of whom it is asked. Default: everybody. */ of?: Condition
}

/** A thing as a list tells of it to whoever may find it. */
export interface Listed {
  title: string
  summary: string
  href: string
  opens: boolean
  price?: PriceShown
  /** It opens, and what it costs is not told. */ untold?: true
  /** Of goods shown as cards. */ picture?: string | ShownPicture
  /** The day it is of, in words. */ day?: string
}

/** A thing as a feed tells of it. */
export interface FeedEntry {
  thing: Resource
  title: string
  summary: string
  path: string
  /** The local date it is of. */ day?: string
  author?: string
  /** Its words, for whoever it opens to. */ html?: string
}

/** What machines are told of a page that people see: what sort of thing it is, and whether it is for everybody. */
export interface PageAbout {
  kind: Kind
  free: boolean
  /** Local date, `YYYY-MM-DD`. */ day?: string
  author?: string
}

/** What was searched for, and what is found by it. */
export interface SearchShown {
  text: string
  found: { title: string; href: string; opens: boolean; quote: { text: string; hit: boolean }[] }[]
  /** What is said of it as a whole. */ said?: string
}

/** A file as it is told of to whoever may find its download. */
export interface ListedFile {
  title: string
  summary: string
  /** Its page, where it has one. */ href?: string
  /** In words, such as PDF. */ type: string
  size: string
  /** Where it is fetched, by whoever may take it. */ fetch?: string
}

/** What a thing that opened adds to its page. */
export interface Opened {
  blocks: ViewBlock[]
  below?: Listed[]
  goods?: GoodsShown
  byline?: Byline
  /** A woven pattern at its head, or a stored picture. */ picture?: string | ShownPicture
}
/** Who wrote it, and when, in words. */
export interface Byline {
  author?: string
  day?: string
}

export interface ViewTools {
  index: SiteIndex
  /** Blocks that stand in a thing, as far as they open. */
  blocks(kind: string, id: string): Promise<ViewBlock[]>
  /** The text of a thing as a block; none for no words. */
  words(thing: Resource, markdown: string): ViewBlock[]
  /** Of things those that may be found. */
  list(things: readonly Resource[]): Promise<Listed[]>
  /** Goods of a category, those below it included, or of all, as far as they may be found. */
  shelf(category?: string): Promise<ViewBlock & { kind: 'goods' }>
  /** What a product costs the visitor, and what can be chosen. */
  goods(product: string): GoodsShown
  /** Why it cannot be bought, and what to do, for whoever sees it and cannot. */
  notSold(product: Resource): Promise<ViewBlock[]>
  /** The file of a download, where it has one. */
  file(download: Resource): Promise<ListedFile | undefined>
  /** Where a stored picture of a thing is served. */
  picture(thing: Resource, name: string): string
  /** An amount in minor units, as people of the site read it. */
  money(minor: number): string
  /** A local date, as people of the site read it. */
  day(date: string): string
}

export interface ViewItem {
  label: string
  href?: string
  locked: boolean
  /** Of a locked one: the level or role that would unlock it. */ from?: string
  here: boolean
  /** How much lies behind it, in words of the visitor’s own. */ count?: string
  /** It signs whoever follows it out. */ wayOut?: true
  items: ViewItem[]
}
export interface PageView {
  status: number
  siteName: string
  lang: string
  /** What the site says of itself. */ words: SiteWords
  /** What stands beside its name; its colours as a sheet, and the typeface that goes with them. */
  look: { mark: ReturnType<typeof markOf>; sheet: string | null; typeface: Typeface }
  /** Of the document and its heading; empty when the page's own must not be told. */
  title: string
  summary: string
  here: string
  /** Stands before every address of the site in links; empty but in a walk. */
  base: string
  header: ViewBlock[]
  banner: ViewBlock[]
  footer: ViewBlock[]
  menu: ViewItem[]
  trail: { title: string; href: string }[]
  blocks: ViewBlock[]
  below: Listed[]
  byline?: Byline
  picture?: string | ShownPicture
  /** Of a product, what it costs whoever may know, and what can be chosen. */
  goods?: GoodsShown
  /** Where a visitor signs in to come back here. */
  signIn: string
  walked?: { tier: string; draft: boolean; edition?: number }
  about?: PageAbout
  /** What was just done, told once. */
  said?: string
  /** What would let the visitor in, where they are told of what they do not get. */
  ways: Way[]
}

export interface PageAsked {
  /** Weaves whose verdicts were asked for, by number. */
  weaves: ReadonlySet<number>
  conditions: ReadonlySet<Condition>
  /** Names of what else was asked (`PageQuestions`). */
  questions: ReadonlySet<string>
}

export interface Assembled {
  view: PageView
  /** Set instead of a page to send. */
  redirect?: string
  facts: ReadonlySet<FactGroup>
  /** All that was asked about the visitor on the way: whoever is answered the same is sent the same. */
  asked: PageAsked
  /** What is at the address, whether it opened or not. */
  thing?: { kind: Kind; id: string }
  /** It did not open. */
  refused?: true
  /** Holds what is about the visitor alone: kept by nobody, not even by their own browser. */
  personal?: true
  /** What the page would be if it opened, for whoever writes it. */
  whole?: PageView
}
