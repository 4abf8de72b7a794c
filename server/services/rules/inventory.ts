/** Reads what the site holds from the database, as the engine's `Site`. */
import { asc } from 'drizzle-orm'
import type { Kind } from '../../../core/rulebook/kinds'
import type { Site, Standing, Target } from '../../../core/site/site'
import type { Tx } from '../../db/database'
import { block, menu, menuItem, page, siteState } from '../../db/schema'
import { Problem } from '../../problem'

export interface Inventory {
  site: Site
  liveEdition: number
  contentVersion: number
}

/** The service routes Bravik itself answers; a gate can open or shut each. */
const routes: string[] = []

export async function readInventory(tx: Tx): Promise<Inventory> {
  const [state] = await tx.select().from(siteState)
  if (!state) throw new Problem('not-found', 'The site has not been set up yet.')
  const pages = await tx
    .select({ id: page.id, path: page.path, parent: page.parentId, title: page.title })
    .from(page)
    .orderBy(asc(page.position), asc(page.path))
  const blocks = await tx
    .select({
      id: block.id,
      pageId: block.pageId,
      blockId: block.blockId,
      frame: block.frame,
      title: block.title,
      kind: block.kind,
      oneOf: block.oneOf,
    })
    .from(block)
    .orderBy(asc(block.position), asc(block.id))
  const menus = await tx.select().from(menu).orderBy(asc(menu.id))
  const items = await tx.select().from(menuItem).orderBy(asc(menuItem.position), asc(menuItem.id))
  const site: Site = {
    name: state.name,
    timezone: state.timezone,
    currency: state.currency,
    locale: state.locale,
    pages: pages.map(({ parent, ...one }) => ({ ...one, ...(parent ? { parent } : {}) })),
    blocks: blocks.map(one => ({
      id: one.id,
      title: one.title || one.id,
      kind: one.kind,
      in: placeOf(one),
      ...(one.oneOf ? { oneOf: true } : {}),
    })),
    menus: menus.map(one => ({
      id: one.id,
      title: one.title,
      ...(one.whenRefused ? { whenRefused: one.whenRefused as 'hide' } : {}),
      items: items.filter(item => item.menuId === one.id).map(itemOf),
    })),
    routes,
  }
  return { site, liveEdition: state.liveEdition, contentVersion: state.contentVersion }
}

function placeOf({
  pageId,
  blockId,
  frame,
}: {
  pageId: string | null
  blockId: string | null
  frame: 'header' | 'banner' | 'footer' | null
}): Standing {
  if (pageId !== null) return { page: pageId }
  return blockId !== null ? { block: blockId } : { frame: frame! }
}

function itemOf(item: typeof menuItem.$inferSelect) {
  const to: Target | undefined = item.url
    ? { url: item.url }
    : item.toKind
      ? { [item.toKind as Kind]: item.toId! }
      : undefined
  return {
    id: item.id,
    label: item.label,
    ...(to ? { to } : {}),
    ...(item.under ? { under: item.under } : {}),
    ...(item.follow ? {} : { follow: false }),
    ...(item.whenRefused ? { whenRefused: item.whenRefused as 'hide' } : {}),
  }
}
