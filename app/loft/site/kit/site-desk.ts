import type { InjectionKey } from 'vue'
import type { PartNote } from '~/loft/kit/sheet/questions'

/** Where a part is brought to: next to another, or into one that holds others and has none yet. */
export interface Beside {
  part: string
  side: 'before' | 'behind' | 'in'
}

/** What stands for the page itself among its parts. */
export const pageItself = ''

/** What the parts of a page share with whoever writes it: which is looked at, which is written, how each fares. */
export interface SiteDesk {
  tier: { id: string; name: string }
  /** The part at hand; `pageItself` for what the page says about itself. */
  readonly chosen: string | null
  /** It is being written. */
  readonly writing: boolean
  /** Only what the tier gets is shown. */
  readonly leftOut: boolean
  note(part: string): PartNote | undefined
  choose(part: string | null, writing?: boolean): void
  /** Goes to the part before or after the one at hand. */
  step(way: -1 | 1): void
  /** One of several, to be looked at. */
  pick(around: string, part: string): void
  lookAs(tier: string): void
  /** Marked words that are to be for some: whom, is asked beside the part. */
  passage: { words: string; write(phrase: string): void } | null
  /** Brings a part to right before or behind another; missing where nothing is written. */
  bring?(part: string, to: Beside): void
  /** Of what is looked at as a whole. */
  copyWhole(): void
  removeWhole(): void
}
export const siteDesk: InjectionKey<SiteDesk> = Symbol('the desk a page is written at')

/** Within a document or a tree of its own: where a part stands. */
export const partElement = (root: ParentNode | null | undefined, part: string): HTMLElement | null =>
  root?.querySelector<HTMLElement>(`[data-part="${CSS.escape(part)}"]`) ?? null
