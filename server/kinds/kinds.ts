/** The kinds of thing the server keeps. One line for each that the engine says is versioned; a missing one does not compile. */
import { keptShape } from '../../core/kinds/kinds'
import type { VersionedThing } from '../../core/kinds/kinds'
import { block } from './block'
import { category } from './category'
import { download, folder } from './download'
import { menu, menuItem } from './menu-item'
import { page } from './page'
import { post, topic } from './post'
import { product } from './product'
import { register } from './register'
import type { ServerKind } from './server-kind'

export const serverKinds: Record<VersionedThing, ServerKind> = {
  page,
  post,
  topic,
  block,
  menu,
  menuItem,
  category,
  product,
  folder,
  download,
  register,
}

export const isServerKind = (kind: string): kind is VersionedThing => Object.hasOwn(serverKinds, kind)

/** What rules see of a thing, and the rest, which is read only for whoever may have it. */
export function split(kind: VersionedThing, thing: Record<string, unknown>): { body: object; content: object } {
  const seen = new Set(Object.keys((keptShape(kind) as unknown as { shape: object }).shape))
  const entries = Object.entries(thing).filter(([, value]) => value !== undefined)
  return {
    body: Object.fromEntries(entries.filter(([key]) => seen.has(key))),
    content: Object.fromEntries(entries.filter(([key]) => !seen.has(key))),
  }
}

export { staffKindOfThing as staffKindOf } from '../../core/staff/thing-kind'

export type { VersionedThing }
