/** What each kind of block shows once it opens. */
import { thingsIn } from '../../core/kinds/holding'
import type { Resource } from '../../core/kinds/kinds'
import type { SiteIndex } from '../../core/site/site-index'
import { renderMarkdown } from './markdown'
import type { BlockBody, BlockKind } from './block-bodies'
import type { Listed, ViewBlock } from './view'

export interface BlockTools {
  base: string
  index: SiteIndex
  href(path: string): string
  inner(): Promise<ViewBlock[]>
  panel(): Promise<ViewBlock[]>
  account(): ViewBlock
  list(things: readonly Resource[]): Promise<Listed[]>
}
interface Block<K extends BlockKind> {
  id: string
  title: string
  body: BlockBody<K>
}
type Made = ViewBlock | ViewBlock[]

export const shown: { [K in BlockKind]: (block: Block<K>, tools: BlockTools) => Made | Promise<Made> } = {
  text: ({ title, body }, { base }) => ({ kind: 'text', title, html: renderMarkdown(body.markdown, base) }),
  picture: ({ body }) => ({ kind: 'picture', ...(body as { alt: string }) }),
  call: ({ id, title, body }, { base, href }) => ({
    kind: 'call',
    title,
    ...(body.text ? { text: body.text } : {}),
    label: body.label,
    // A counted link leads through a door of ours, but not in a walk, which counts for nobody.
    href: body.counted && !base ? `/go/${id}` : href(body.href),
  }),
  group: async ({ title }, { inner }) => ({ kind: 'group', title, blocks: await inner() }),
  panels: async ({ title }, { inner }) => ({ kind: 'panels', title, blocks: await inner() }),
  list: async ({ title, body }, { index, list }) => {
    const things = await list(thingsIn(body.of, index).slice(0, body.most ?? 100))
    return things.length ? { kind: 'list', title, things } : []
  },
  panel: (_, { panel }) => panel(),
  account: (_, { account }) => account(),
}
