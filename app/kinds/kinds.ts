/** The kinds of thing as the console shows them. One line for each that is kept; a missing one does not compile. */
import type { VersionedThing } from '~~/core/kinds/kinds'
import { appKind } from './app-kind'
import type { AppKind } from './app-kind'
import { block } from './block'
import { menu, menuItem } from './menu-item'
import { page } from './page'
import { category, download, folder, post, product, register, topic } from './plain'

export const appKinds: Record<VersionedThing, AppKind> = {
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

/** A kind's part of the console, also of those nobody keeps, such as service routes. */
export const appKindOf = (kind: string): AppKind =>
  Object.hasOwn(appKinds, kind) ? appKinds[kind as VersionedThing] : appKind({})
