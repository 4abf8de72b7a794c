/** The demo's pages, blocks and menu as rules see them, without a database. */
import type { Site, Standing } from '../../core/site/site'
import { wexlowFrame, wexlowMenu, wexlowPages } from '../../demo/wexlow/content'
import type { DemoBlock, DemoPage } from '../../demo/wexlow/content'

const blocksOf = (block: DemoBlock, standing: Standing): NonNullable<Site['blocks']> => [
  {
    id: block.id,
    title: block.title || block.id,
    kind: block.kind,
    in: standing,
    ...(block.oneOf ? { oneOf: true } : {}),
  },
  ...(block.inner ?? []).flatMap(inner => blocksOf(inner, { block: block.id })),
]
const pagesOf = (page: DemoPage, parent?: string): NonNullable<Site['pages']> => [
  { id: page.id, path: page.path, title: page.title, ...(parent ? { parent } : {}) },
  ...(page.below ?? []).flatMap(below => pagesOf(below, page.id)),
]
const everyPage = (pages: DemoPage[]): DemoPage[] => pages.flatMap(page => [page, ...everyPage(page.below ?? [])])

export const wexlowSite: Site = {
  name: 'Wexlow Mill',
  timezone: 'Europe/Dublin',
  currency: 'EUR',
  locale: 'en-IE',
  pages: wexlowPages.flatMap(page => pagesOf(page)),
  blocks: [
    ...everyPage(wexlowPages).flatMap(page => page.blocks.flatMap(block => blocksOf(block, { page: page.id }))),
    ...wexlowFrame.flatMap(({ frame, block }) => blocksOf(block, { frame })),
  ],
  menus: [
    {
      id: 'main',
      title: 'Main menu',
      items: wexlowMenu.map(({ id, label, to, whenRefused }) => ({
        id,
        label,
        to,
        ...(whenRefused ? { whenRefused } : {}),
      })),
    },
  ],
}
