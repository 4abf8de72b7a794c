/** Everything that stands on the site of Wexlow Mill, in the order of the site. */
import { wexlowFootMenu, wexlowFrame, wexlowMenu, wexlowPages } from './content'
import type { DemoBlock, DemoEntry, DemoPage } from './content'
import type { DemoThing } from './demo-thing'
import { wexlowGoods } from './goods'
import { wexlowWritings } from './writings'

const blocksOf = (one: DemoBlock, place: Record<string, string>): DemoThing[] => [
  {
    kind: 'block',
    key: one.id,
    thing: {
      kind: one.kind,
      in: place,
      ...(one.title ? { title: one.title } : {}),
      ...(one.summary ? { summary: one.summary } : {}),
      ...(one.oneOf ? { oneOf: true } : {}),
      ...(one.shares ? { shares: one.shares } : {}),
      ...(one.accent ? { accent: one.accent } : {}),
      body: one.body,
    },
  },
  ...(one.inner ?? []).flatMap(inner => blocksOf(inner, { block: one.id })),
]

const pagesOf = ({ id, path, title, summary, below = [] }: DemoPage, parent?: string): DemoThing[] => [
  { kind: 'page', key: id, thing: { path, title, summary, ...(parent ? { parent } : {}) } },
  ...below.flatMap(one => pagesOf(one, id)),
]
const everyPage = (pages: DemoPage[]): DemoPage[] => pages.flatMap(one => [one, ...everyPage(one.below ?? [])])

const menuOf = (menu: string, title: string, entries: readonly DemoEntry[]): DemoThing[] => [
  { kind: 'menu', key: menu, thing: { title } },
  ...entries.map(({ id, ...entry }): DemoThing => ({ kind: 'menuItem', key: id, thing: { menu, ...entry } })),
]

export const wexlowThings = (): DemoThing[] => [
  ...wexlowPages.flatMap(one => pagesOf(one)),
  ...everyPage(wexlowPages).flatMap(one => one.blocks.flatMap(block => blocksOf(block, { page: one.id }))),
  ...wexlowFrame.flatMap(({ frame, block }) => blocksOf(block, { frame })),
  ...menuOf('main', 'Main menu', wexlowMenu),
  ...menuOf('foot', 'At the foot', wexlowFootMenu),
  ...wexlowWritings,
  ...wexlowGoods,
]
