/** What a kind of block tells about itself: what staff write of one, and what it shows once it opens. */
import { z } from 'zod'
import type { Resource } from '../kinds/kinds'
import type { SiteIndex } from '../site/site-index'
import { isSitePath } from '../shapes'
import type { Listed, ListedFile, Sight, SignUpForm, ViewBlock, ViewItem } from '../view/view'
import type { Panel } from '../view/panel'
import type { PanelSort } from './panel-sorts'

export interface ShownBlock<B> {
  id: string
  title: string
  body: B
}

/** What a block that opened makes its part of the page with. */
export interface BlockTools {
  /** Stands before every address of the site; empty but in a walk. */
  base: string
  index: SiteIndex
  href(path: string): string
  /** Its text as HTML, with what is sent of its passages. */
  text(markdown: string): string
  /** The blocks that stand in it, as far as they open. */
  inner(): Promise<ViewBlock[]>
  /** Whether the visitor may open a thing. */
  opens(thing: Resource): boolean
  /** What is the visitor's own; null where there is nothing to show. */
  panel(shows: PanelSort): Promise<Panel | null>
  /** Who is signed in, with marks for their own words. */
  person(): { name: string; roles: string; loft: boolean } | null
  /** Of things those that may be found. */
  /** The first `most` of these that may be found; default: all. */
  list(things: readonly Resource[], most?: number): Promise<Listed[]>
  /** The same of goods, as cards. */
  goods(things: readonly Resource[], most?: number): Promise<Listed[]>
  /** Products of a category, those below it included, or all, that are no variants; whoever may find them. */
  onShelf(category?: string): readonly Resource[]
  /** The code of an offer that is for the visitor: `code` where all share it, else one of their own is asked for. Null for others. */
  code(offer: string): { code?: string; given: boolean } | null
  /** Of downloads with a file those that may be found. */
  files(downloads: readonly Resource[]): Promise<ListedFile[]>
  /** Where a stored picture that stands in it is served. */
  picture(name: string): string
  /** The entries of a menu, as far as the visitor gets them. */
  menu(id: string): ViewItem[]
  /** What it shares, as far as that opens. */
  shared(): Promise<ViewBlock[]>
  /** What signing up asks. */ signUp: SignUpForm
}

type Made = ViewBlock | ViewBlock[]

export interface BlockKindModule<S extends z.ZodObject = z.ZodObject> {
  body: S
  /** Other blocks stand in it. */
  holds?: true
  /** The part of its body that is a text, whose passages may be for some. */
  text?: string
  /**
   * Words of its body besides its text, which it is found by. Only of kinds that show whatever opens: one that shows
   * itself to some alone, as a call does whose link does not open, is not found by its words.
   */
  words?(body: z.infer<S>): (string | undefined)[]
  /** Parts of its body that name stored pictures. */
  pictures?: readonly string[]
  /** What a dimmed one can keep: its label, that it is a picture. Default: neither. */
  outline?(body: z.infer<S>): { label?: string; picture?: true }
  /** Plain words it shows, of which a dimmed one can keep the first. Default: its text, or none. */
  plain?(body: z.infer<S>): string | undefined
  /** The picture a dimmed one can keep, where it has one; `picture`: where a stored one is served. Default: none. */
  sight?(body: z.infer<S>, picture: (name: string) => string): Sight | undefined
  shown(block: ShownBlock<z.infer<S>>, tools: BlockTools): Made | Promise<Made>
}

/** A kind of block, with the type its body has. */
export const blockKind = <S extends z.ZodObject>(module: BlockKindModule<S>): BlockKindModule<S> => module

export const address = z
  .string()
  .refine(
    value => isSitePath(value) || /^https?:\/\/\S+$/i.test(value),
    'A page of this site or a web address is expected.',
  )
export const words = z.string().max(500)
/** The id of a thing. */
export const id = z.string().max(80)
