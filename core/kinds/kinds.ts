/** The kinds of thing a gate can stand before, and what such things lie in. Adding one is a module and a line here. */
import type { z } from 'zod'
import { block } from './block'
import { category } from './category'
import { download, folder } from './download'
import { menu, menuItem } from './menu-item'
import { knowKinds } from './known-kinds'
import { page } from './page'
import { post, topic } from './post'
import { product } from './product'
import { field, record, register } from './register'
import { route } from './route'
import { rights } from './kind'
import type { KindModule, Right, SiteRecord } from './kind'

/** In the order in which boards and lists show them. */
export const kindModules = {
  page,
  post,
  block,
  category,
  product,
  download,
  menuItem,
  route,
  register,
  record,
  field,
} as const

/** What is kept and versioned like a thing, and only holds things: no gate asks about it. */
export const holderModules = { topic, folder, menu } as const

export type Kind = keyof typeof kindModules
export type Holder = keyof typeof holderModules
export type Kept = Kind | Holder

type Modules = typeof kindModules & typeof holderModules
/** A thing as rules see it. */
export type ThingOf<K extends Kept> = Modules[K] extends { thing?: infer T } ? NonNullable<T> : never

export const kinds = Object.keys(kindModules) as Kind[]
knowKinds(kinds)
export const keptKinds = [...kinds, ...(Object.keys(holderModules) as Holder[])]

const modules: Record<string, KindModule<never>> = { ...holderModules, ...kindModules } as never
/** The module of a kind, without the shape of its things: for whatever is the same for all. */
export const moduleOf = (kind: string): KindModule<never> => modules[kind]!
export const isKept = (kind: string): kind is Kept => Object.hasOwn(modules, kind)

export type { Right, SiteRecord }
export { rights }

/** A thing on the site. Of a record, and of a field in one, the record comes along. */
export interface Resource {
  kind: Kind
  id: string
  record?: SiteRecord
}

type IsVersioned<M> = M extends { kept: unknown }
  ? true
  : M extends { all: unknown }
    ? false
    : M extends { shape: unknown }
      ? true
      : false
/** Kinds that are kept in versions: all but those the application brings, and those that come with the question. */
export type VersionedThing = { [K in Kept]: IsVersioned<Modules[K]> extends true ? K : never }[Kept]
export const versionedKinds = keptKinds.filter(kind => {
  const { kept, shape, all } = moduleOf(kind)
  return kept !== undefined || (shape !== undefined && all === undefined)
}) as VersionedThing[]
/** What is kept of a thing of such a kind. */
export const keptShape = (kind: string): z.ZodType => (moduleOf(kind).kept ?? moduleOf(kind).shape)!

export const resourceKey = (kind: string, id: string) => `${kind}:${id}`

const that = (says: (module: KindModule<never>) => boolean): ReadonlySet<Kind> =>
  new Set(kinds.filter(kind => says(moduleOf(kind))))

/** Kinds something can be bought or fetched of, and those with a price, which taking needs. */
export const takenKinds = that(one => one.rights.includes('take'))
export const pricedKinds = that(one => one.rights.includes('price'))
/** Kinds a site has things of that are asked about by themselves: not those read only in something that comes with the question. */
export const listedKinds = that(one => !one.find && !one.inRecord)
/** Kinds that tell why they are not taken. */
export const noticedKinds = that(one => one.takeNotice === true)
/** Kinds an `everything` gate reaches only through what they stand in. */
export const insideOthers = that(one => one.standsIn !== undefined)

type ScopeOf<K extends Kind> = Modules[K] extends { scope: { key: infer S extends string } } ? S : K
type GatedHolder = { [H in Holder]: Modules[H] extends { gated: true } ? H : never }[Holder]
/** What a gate can stand on besides everything, a kind and a path: the key of its `on`. */
export type ScopeKey = { [K in Kind]: ScopeOf<K> }[Kind] | GatedHolder

/** Each with the kind its ids are of. */
export const scopes = Object.fromEntries(
  keptKinds
    .filter(kind => kind in kindModules || moduleOf(kind).gated)
    .map(kind => {
      const { scope } = moduleOf(kind)
      return [scope?.key ?? kind, (scope?.of ?? kind) as Kept]
    }),
) as Record<ScopeKey, Kept>

/** Scopes that may say `below`. */
export const belowScopes: ReadonlySet<string> = new Set(kinds.filter(kind => moduleOf(kind).below))
