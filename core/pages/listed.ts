/** Things as lists tell of them, to whoever may find them: pages, goods as cards, files. */
import { dayWords } from '../calendar'
import { fetchAddress, readFileName, sizeWords } from '../files/stored-file'
import { hasPrice, rightBit } from '../gates/verdict'
import type { Verdict } from '../gates/verdict'
import { moduleOf } from '../kinds/kinds'
import type { Resource } from '../kinds/kinds'
import { shownPicture } from '../pictures/picture-file'
import type { Listed, ListedFile, ViewBlock } from '../view/view'
import { codesPlace } from './goods/codes-view'
import { GoodsView } from './goods/goods-view'
import type { PageContext } from './page-context'

/** Of things those that may be found, the first `most` of them, with what lists tell of them. */
export async function listed(
  page: PageContext,
  things: readonly Resource[],
  { most = Infinity, pictures = false }: { most?: number; pictures?: boolean } = {},
): Promise<Listed[]> {
  const { index } = page.ask.rules
  const found: { thing: Resource; verdict: Verdict; path: string }[] = []
  for (const thing of things) {
    if (found.length >= most) break
    const path = index.pathOf(thing.kind, thing.id)
    if (path === undefined || !(page.decider.bits(thing) & rightBit.find)) continue
    found.push({ thing, verdict: page.decider.decide(thing), path })
  }
  await page.ask.source.read(found.map(one => one.thing))
  return found.map(({ thing, verdict, path }) => {
    const { title = thing.id } = index.get(thing.kind, thing.id) as { title?: string }
    const { picture } = pictures ? page.contentOf(thing.kind, thing.id) : {}
    const day = moduleOf(thing.kind).day?.(index.get(thing.kind, thing.id) as never)
    return {
      title,
      summary: String(page.contentOf(thing.kind, thing.id).summary ?? ''),
      href: page.href(path),
      opens: verdict.open,
      ...(day === undefined ? {} : { day: dayWords(day, page.words.locale) }),
      ...(verdict.open && hasPrice(thing.kind) ? goodsOf(page).listed(thing.id) : {}),
      ...(picture
        ? { picture: shownPicture(String(picture), page.pictureAt(thing, String(picture))) ?? String(picture) }
        : {}),
    }
  })
}

/** Goods as cards, with their pictures; those that may be found. */
export async function cards(page: PageContext, things: readonly Resource[], most?: number): Promise<Listed[]> {
  return listed(page, things, { ...(most === undefined ? {} : { most }), pictures: true })
}

export function goodsOf(page: PageContext): GoodsView {
  const money = (minor: number) => page.money(minor)
  const day = (date: string) => page.day(date)
  const href = (path: string) => page.href(path)
  const codes = codesPlace(page.decider, page.ask.path, page.base)
  return (page.shownGoods ??= new GoodsView(page.decider, { money, day, href, codes, walked: page.base !== '' }))
}

export async function shelfOf(page: PageContext, category: string | undefined): Promise<ViewBlock & { kind: 'goods' }> {
  const { ids, shelf } = goodsOf(page).shelf(category, page.questions.requestPart('query'), page.href(page.ask.path))
  return {
    kind: 'goods',
    title: '',
    things: await cards(
      page,
      ids.map(id => ({ kind: 'product', id })),
    ),
    shelf,
  }
}

/** Of downloads with a file those that may be found. */
export async function filesOf(page: PageContext, downloads: readonly Resource[]): Promise<ListedFile[]> {
  const found = downloads.filter(thing => page.decider.decide(thing).find)
  await page.ask.source.read(found)
  return (await Promise.all(found.map(thing => fileOf(page, thing)))).filter(one => one !== undefined)
}

/** The file of a download; where it is fetched only for whoever may. */
export async function fileOf(page: PageContext, thing: Resource): Promise<ListedFile | undefined> {
  const { rules, source } = page.ask
  await source.read([thing])
  const content = page.contentOf(thing.kind, thing.id)
  const file = readFileName(content.file)
  if (!file) return undefined
  const verdict = page.decider.decide(thing)
  const path = rules.index.pathOf(thing.kind, thing.id)
  const { title = thing.id } = rules.index.get(thing.kind, thing.id) as { title?: string }
  return {
    title,
    summary: String(content.summary ?? ''),
    ...(path === undefined ? {} : { href: page.href(path) }),
    type: file.type.toUpperCase(),
    size: sizeWords(file.size, page.words.locale),
    ...(verdict.take ? { fetch: fetchAt(page, thing.id) } : {}),
  }
}

function fetchAt(page: PageContext, id: string): string {
  return page.base + fetchAddress(id) + page.saidAgain
}
