/** What a kind of thing tells the console about itself: how one is called, where it stands, how it is edited. */
import type { Reach } from '~~/core/gates/verdict'
import type { Rulebook } from '~~/core/rulebook/rulebook'
import type { SiteIndex } from '~~/core/site/site-index'

type Thing = Record<string, unknown>

/** A field of a form. What is typed goes to the server as it is; empty is left out. */
export interface KindField {
  key: string
  label: string
  /**
   * `words`: several lines. `money`: an amount in the site's currency. `one`, `many`: ids of another kind. `picture`:
   * the name of a stored one, or one of the choices. `file`: the name of a stored file, with the name people get it by.
   * `sale`: a lower price, with its days. `pairs`: names, each with what it is of it.
   */
  type:
    'sale' | 'pairs' | 'text' | 'words' | 'number' | 'money' | 'check' | 'one' | 'many' | 'choice' | 'picture' | 'file'
  hint?: string
  needed?: true
  /** Of `one` and `many`: the kind the ids are of. */
  of?: string
  choices?: readonly string[]
  /** Of `choice`: where what is kept is not what is read, or depends on the site. */
  options?(index: SiteIndex, book: Rulebook): { value: string; label: string }[]
  /** Of `choice`: between what is kept and the value of an option. Default: the same text. */
  read?(kept: unknown): string
  write?(value: string): unknown
  /** Of no use where this other field is given, or is not. */
  unless?: string
  with?: string
  /** Takes the whole line. */
  wide?: true
  /** Of `number`: what it counts, as it stands behind it. */
  unit?: string
  /** Of `words`: lines shown. */
  rows?: number
}

/** A word of a sentence that is a field's: what it says, or `none` where it says nothing. */
export interface SaidField {
  field: string
  none: string
  /** Of a variant that leaves it out it is what its product says. */ followed?: true
}
/** One sentence of what is said of a thing. */
export interface SaidOf {
  parts: readonly (string | SaidField)[]
  /** Of a thing of which it makes no sense it is not said. */
  when?(thing: Thing): boolean
}

export interface AppKind {
  title(thing: Thing): string
  /** What tells it from others of its kind: an address, where it stands. */
  note(thing: Thing, index: SiteIndex): string
  /** What it lies under in lists that show a tree. */
  parent?(thing: Thing): string | undefined
  /** How one is written; kinds without fields have an editor of their own. */
  fields?: readonly KindField[]
  /** The same as sentences, for places that say rather than ask. */
  says?: readonly SaidOf[]
  /** Others are filed in it, and a page can list them. */
  holds?: true
  /** Files dropped into one become things of this kind. */
  takesFiles?: 'download'
  /** Listed among the things of the site. */
  listed?: { group: string; order: number }
  /** What a reach means for a tier, after “Maker glimpses it:”, where the general words do not say it well. */
  means?: Partial<Record<Reach, string>>
  /** Begins folded on the board. */
  folded?: true
  /** Has an address a walk can open. */
  walks?: true
  /** Blocks stand in it, and are written with it. */
  blocks?: true
}

const titleOf = ({ title, label, id }: Thing) => String(title ?? label ?? id ?? '')

/** A kind with what most of them have. */
export const appKind = (own: Partial<AppKind>): AppKind => ({
  title: titleOf,
  note: ({ path }) => String(path ?? ''),
  ...own,
})
