/** Things as a feed tells of them. */
import { moduleOf } from '../kinds/kinds'
import type { Resource } from '../kinds/kinds'
import type { FeedEntry, ViewBlock } from '../view/view'
import { openedThing } from './opened'
import { toolsOf } from './opened-page'
import type { PageContext } from './page-context'

export async function entriesOf(page: PageContext, things: readonly Resource[]): Promise<FeedEntry[]> {
  const { index } = page.ask.rules
  const found = things.flatMap(thing => {
    const path = index.pathOf(thing.kind, thing.id)
    const verdict = page.decider.decide(thing)
    return verdict.find && path !== undefined ? [{ thing, verdict, path }] : []
  })
  await page.ask.source.read(found.flatMap(({ thing }) => [thing, ...page.inside(thing)]))
  const entries: FeedEntry[] = []
  for (const { thing, verdict, path } of found) {
    const seen = index.get(thing.kind, thing.id) as { title?: string }
    const content = page.contentOf(thing.kind, thing.id)
    const day = moduleOf(thing.kind).day?.(seen as never)
    const opened = verdict.open && (await openedThing(thing.kind, seen, content, { ...toolsOf(page), verdict }))
    entries.push({
      thing,
      title: seen.title ?? thing.id,
      summary: String(content.summary ?? ''),
      path,
      ...(day === undefined ? {} : { day }),
      ...(verdict.open && content.author ? { author: String(content.author) } : {}),
      ...(opened ? { html: opened.blocks.map(textOfBlock).join('') } : {}),
    })
  }
  return entries
}

/** Of a part what is written in it; the rest is for a page. */
const textOfBlock = (block: ViewBlock): string =>
  block.kind === 'text' ? block.html : 'blocks' in block ? block.blocks.map(textOfBlock).join('') : ''
