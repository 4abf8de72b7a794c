/**
 * What a kind of thing tells the engine about itself. One module per kind, one line in `kinds.ts`:
 * types, inventory, chains, rights and deciding follow from it, and nothing else asks which kind a thing is.
 */
import { z } from 'zod'
import type { IssueCode } from '../errors'
import type { Path } from '../pointer'
import { key } from '../shapes'

export const rights = ['find', 'search', 'open', 'price', 'take'] as const
/** What a gate can state. */
export type Right = (typeof rights)[number]

/** One row of a register. Records are counted by the day: they come into a decision with the question, never with the site. */
export interface SiteRecord {
  id: string
  register: string
  owner?: string | null | undefined
  values?: Record<string, unknown> | undefined
}

/** A thing that is asked about. Of a record, and of a field in one, the record comes along. */
export interface Asked<K extends string = string> {
  kind: K
  id: string
  record?: SiteRecord
}

/** One container on the way to a thing; `scope` names the gates read there, when it is not the container's own name. */
export interface Place {
  on: string
  id: string
  scope?: string
}

/** Things by kind and id, as far as a module needs them to find its way. */
export interface Lookup {
  get(kind: string, id: string): unknown
  /** A thing and what it lies under, outermost first; rings in the data end the walk. */
  lineage(kind: string, id: string): readonly string[]
}

/** An id a thing names. `within`: it lies or stands in what it names, which can be no ring; false: it only leads there. */
export interface Naming {
  at: Path
  kind: string
  id: string
  within?: boolean
}

/** What a site is read from: its lists by name. */
export type Lists = Readonly<Record<string, unknown>>

/** Something that is kept, versioned, and that others may lie in. */
export interface HolderModule<Thing extends { id: string } = never> {
  /** The site's list of them. Without one they are told by `all`, or come with the question. */
  list?: string
  /** One entry of the list. */
  shape?: z.ZodType
  /** What is kept of one, where that is more than the list shows of it. */
  kept?: z.ZodType
  /** The list, made from what is kept, where kinds that are kept apart are listed together. */
  assemble?(things: readonly unknown[], of: (kind: string) => readonly unknown[]): unknown[]
  /**
   * The right each part staff give of one takes: a field of its own staff kind, or another kind, as prices are. A part
   * without a line here takes the right to every field.
   */
  parts?: Readonly<Record<string, string | { kind: string }>>
  /** What one that is kept names. */
  names?(thing: Thing): Naming[]
  /** What is wrong with one that is kept, seen beside those it names. */
  wrong?(thing: Thing, look: Pick<Lookup, 'get'>): { at: Path; code: IssueCode; found?: unknown }[]
  /** Kinds of thing that lie in one of them, besides its own: a gate on it is before those too. */
  holds?: readonly string[]
  /** Gates can stand before all that is in one of them. */
  gated?: true
  /** All of a site, where that is not simply its list. */
  all?(lists: Lists): readonly Thing[]
}

export interface KindModule<Thing extends { id: string } = never> extends HolderModule<Thing> {
  /** What can be admitted to, of every right there is. */
  rights: readonly Right[]
  /** The address, for things that have one of their own. */
  path?(thing: Thing): string | undefined
  /** Each way through what contains it, outermost first. Where there are several, all count together. */
  ways?(thing: Thing, look: Lookup): Place[][]
  /** What is read after the ways have joined and before the thing itself. */
  before?(thing: Thing): Place | undefined
  /** What a gate's `on` says for them all, when it is not their kind: its key, and the kind its ids are of (see `sharedId`). */
  scope?: { key: string; of: string }
  /** A gate may cover what lies below one of them. */
  below?: true
  /** What it stands in, which must open; `open` is the site's frame. A gate on everything reaches it only through that. */
  standsIn?(thing: Thing, asked: Asked): Asked | 'open'
  /** The local date it is of: of things that have one lists show the newest first. */
  day?(thing: Thing): string | undefined
  /** Outside what is said of the whole site, as the pages for signing in are. */
  apart?(thing: Thing): boolean
  /** Others of its kind around it, outermost first, whose gates may say what the refused get. */
  around?(thing: Thing, look: Lookup): string[]
  /** Shut until a gate on its kind or itself opens it. */
  closed?: true
  /** Somebody who may open it and not take it is told why. */
  takeNotice?: true
  /** Finds the thing of a question, where it stands in no list. */
  find?(asked: Asked, look: Lookup): Thing | undefined
  /** Read only in a record, which comes with the question. */
  inRecord?: true
  /** Things that share everything a gate can see of them are decided as one: the id they share. */
  sharedId?(thing: Thing): string
  /** What somebody sees of one depends on what it leads to and on those around it, as in menus: its own gates do not tell it. */
  seenInMenu?: true
  /** No sentence names one of them. */
  unnamed?: true
}

/** Titles serve screens; no rule looks at them. */
export const titled = { id: key, title: z.string().optional() }

/**
 * What rules see of a text: whom its passages are for, in the order in which they begin, each a condition; null for one
 * that is not understood. `broken`: something about its passages is not right, so that nobody is sent the text.
 */
export const written = {
  passages: z.array(z.record(z.string(), z.unknown()).nullable()).optional(),
  broken: z.literal(true).optional(),
}

/** A module with the type of its things, which lists of modules pass on. */
export const kindOf =
  <Thing extends { id: string }>() =>
  <const M extends KindModule<Thing>>(module: M): M & { thing?: Thing } =>
    module
export const holderOf =
  <Thing extends { id: string }>() =>
  <const M extends HolderModule<Thing>>(module: M): M & { thing?: Thing } =>
    module

/** Of one id that may be left out. */
export const namesOne = (kind: string, at: string, id: string | undefined, within?: true): Naming[] =>
  id === undefined ? [] : [{ at: [at], kind, id, ...(within ? { within } : {}) }]
/** Of a list of ids. */
export const namesEach = (kind: string, at: string, ids: readonly string[] = []): Naming[] =>
  ids.map((id, i) => ({ at: [at, i], kind, id }))
