/** What a thing that opens shows on its page, and where it lies. */
import type { Verdict } from '../gates/verdict'
import { moduleOf } from '../kinds/kinds'
import type { Kind, Resource } from '../kinds/kinds'
import type { Assembled, PageAbout, PageView, ViewTools } from '../view/view'
import { fileOf, goodsOf, listed, shelfOf } from './listed'
import { openedThing } from './opened'
import type { PageContext } from './page-context'
import { shownParts, standing } from './page-parts'
import { notSold } from './told'
import { pageOf } from './whole-page'

export async function openedPage(page: PageContext, thing: Resource, verdict: Verdict): Promise<Assembled> {
  const { index } = page.ask.rules
  const seen = index.get(thing.kind, thing.id) as { title?: string }
  const content = page.contentOf(thing.kind, thing.id)
  const shown = await openedThing(thing.kind, seen, content, { ...toolsOf(page), verdict })
  const { author } = shown.byline ?? {}
  return pageOf(page, 200, {
    title: seen.title ?? thing.id,
    summary: String(content.summary ?? ''),
    trail: trailOf(page, thing),
    ...shown,
    about: { ...aboutOf(page, thing, isForAll(page, thing)), ...(author === undefined ? {} : { author }) },
  })
}

export function toolsOf(page: PageContext): ViewTools {
  const { index } = page.ask.rules
  return {
    index,
    blocks: (kind, id) => shownParts(page, standing(page, kind, id)),
    words: (thing, markdown) => (markdown ? [{ kind: 'text', title: '', html: page.text(thing, markdown) }] : []),
    list: things => listed(page, things),
    file: download => fileOf(page, download),
    shelf: category => shelfOf(page, category),
    goods: product => goodsOf(page).shown(product),
    notSold: product => notSold(page, product),
    money: minor => page.money(minor),
    picture: (thing, name) => page.pictureAt(thing, name),
    day: date => page.day(date),
  }
}

export function aboutOf(page: PageContext, thing: Resource, free: boolean): PageAbout {
  const day = moduleOf(thing.kind).day?.(page.ask.rules.index.get(thing.kind, thing.id) as never)
  return { kind: thing.kind, free, ...(day === undefined ? {} : { day }) }
}

/** Of what opened: whether it opens to whoever comes, as far as page visitor can tell. */
function isForAll(page: PageContext, thing: Resource): boolean {
  return !page.decider.asker.signedIn || !page.ask.rules.factsOf(thing).has('person')
}

/** What it lies in, as far as that has addresses and may be found: the first way where there are several. */
export function trailOf(page: PageContext, thing: Resource): PageView['trail'] {
  const { index } = page.ask.rules
  const [way = []] = moduleOf(thing.kind).ways?.(index.get(thing.kind, thing.id) as never, index) ?? []
  return way.flatMap(({ on, id }) => {
    const kind = on as Kind
    const path = index.pathOf(kind, id)
    const { title = id } = (index.get(kind, id) ?? {}) as { title?: string }
    return path !== undefined && page.decider.decide({ kind, id }).find ? [{ title, href: page.href(path) }] : []
  })
}
