/**
 * Pages of another site as a folder of this one's files (docs/folder.md): pages with parts, menus from its navigation,
 * and a list of what could not be kept. Pure: what comes out is brought in, or not, as any folder is.
 */
import { stringify } from 'yaml'
import type { MenuItem } from '../../../core/kinds/menu-item'
import { isLanguageTag } from '../../../core/site-words/site-words'
import { slug } from '../../../core/site/slug'
import type { SiteIndex } from '../../../core/site/site-index'
import { leavingOut } from '../../../core/outside/left-out'
import type { LeftOut } from '../../../core/outside/left-out'
import type { HtmlPage, OutsideEntry, Piece, Section } from '../../../core/outside/outside-page'
import { siteAddress } from '../../reading/html/site-address'
import type { Within } from '../../reading/html/site-address'
import { writePage } from '../../reading/page-file'
import type { PartTree } from '../../reading/page-file'
import { picturePath } from '../folder/picture-paths'

type Data = Record<string, unknown>
export interface OutsidePage {
  /** Where it was found: a whole address. */
  url: string
  read: HtmlPage
}
/** What has a file in the folder. */
export interface FolderFile {
  file: string
  isMenu: boolean
  title: string
  /** Of a page: where it will be. */
  address?: string
  /** How many parts or entries it has. */
  holds: number
  /** It stands in place of a page there is already, or adds to a menu there is. */
  replaces: boolean
}
export interface NotKept {
  /** Of which page: its address there; of the site as a whole: nothing. */
  url?: string
  /** Why all of it could not be kept. */
  why?: string
  left: LeftOut[]
}
export interface SiteFolder {
  files: Record<string, string>
  /** Names of stored pictures by their paths in the folder. */
  pictures: Record<string, string>
  list: FolderFile[]
  notKept: NotKept[]
}

export interface SiteGiven {
  pages: readonly OutsidePage[]
  /** Names of stored pictures by their whole addresses. */
  pictures: ReadonlyMap<string, string>
  within: Within
  /** The draft they are brought into. */
  draft: SiteIndex
  /** BCP 47, of the site. */
  language: string
  /** Files of the folder that are not wanted. */
  without?: ReadonlySet<string>
}

const isFile = /\.(?!x?html?$|php$|aspx?$)[a-z0-9]{2,5}$/i
const mostOfId = 60
const fileOf = (address: string) => `pages${address === '/' ? '/index' : address}.md`

export function folderOfSite(given: SiteGiven): SiteFolder {
  const folder: SiteFolder = { files: {}, pictures: {}, list: [], notKept: [] }
  const placed = placePages(given, folder)
  const ids = new Map([...placed].map(([address, { id }]) => [address, id]))
  const inDraft = pagesIn(given.draft)
  const idAt = (path: string) => ids.get(path) ?? inDraft(path)
  const partIds = partNames(given.draft, new Set(ids.values()))
  for (const [address, { id, page }] of placed) {
    const { leave, all } = leavingOut()
    const parts = partsOf(page.read.sections, id, { given, folder, partIds, leave })
    nameLost(page.read, { given, idAt, leave })
    const parent = parentOf(address, idAt)
    const file = fileOf(address)
    folder.files[file] = writePage(
      {
        id,
        title: page.read.title,
        path: address,
        ...(page.read.summary ? { summary: page.read.summary } : {}),
        ...(parent === undefined ? {} : { parent }),
        ...languageOf(page.read, given.language),
      },
      parts,
    )
    folder.list.push({
      file,
      isMenu: false,
      title: page.read.title,
      address,
      holds: parts.length,
      replaces: inDraft(address) !== undefined,
    })
    const left = [...page.read.leftOut, ...all()]
    if (left.length) folder.notKept.push({ url: page.url, left })
  }
  addMenus(given, folder, idAt)
  return folder
}

/** The page at a path, where there is one. */
function pagesIn(draft: SiteIndex) {
  const byPath = new Map([...draft.all('page').values()].map(({ path, id }) => [path, id]))
  return (path: string): string | undefined => byPath.get(path)
}

/** Which page comes to which address, and the id it has there: the one of a page that stands there already. */
function placePages({ pages, draft, without }: SiteGiven, folder: SiteFolder) {
  const placed = new Map<string, { id: string; page: OutsidePage }>()
  const taken = new Set(draft.all('page').keys())
  const inDraft = pagesIn(draft)
  for (const page of pages) {
    const { address } = page.read
    const there = address === undefined ? undefined : inDraft(address)
    const before = address === undefined ? undefined : placed.get(address)
    if (address !== undefined && without?.has(fileOf(address))) continue
    if (address === undefined) folder.notKept.push({ url: page.url, why: 'Its address can be none here.', left: [] })
    else if (before) {
      if (before.page.read.title !== page.read.title)
        folder.notKept.push({ url: page.url, why: `It would be at ${address}, as ${before.page.url} is.`, left: [] })
    } else if (there === undefined && draft.at(address))
      folder.notKept.push({ url: page.url, why: `At ${address} there is something else in the draft.`, left: [] })
    else {
      const id = there ?? fresh(address === '/' ? 'front' : slug(address), 'page', taken)
      taken.add(id)
      placed.set(address, { id, page })
    }
  }
  return placed
}

function fresh(words: string, fallback: string, taken: ReadonlySet<string>): string {
  const base = words.slice(0, mostOfId).replace(/-+$/, '') || fallback
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}-${n}`
    if (!taken.has(id)) return id
  }
}

/** Ids of parts: those of a page that is brought anew are free again, so that bringing it twice changes nothing. */
function partNames(draft: SiteIndex, pages: ReadonlySet<string>) {
  const taken = new Set(draft.all('block').keys())
  const free = (kind: string, id: string): void => {
    for (const part of draft.standingIn(kind, id)) {
      taken.delete(part.id)
      free('block', part.id)
    }
  }
  for (const id of pages) free('page', id)
  return (words: string): string => {
    const id = fresh(words, 'part', taken)
    taken.add(id)
    return id
  }
}

type Leave = ReturnType<typeof leavingOut>['leave']
interface Making {
  given: SiteGiven
  folder: SiteFolder
  partIds(words: string): string
  leave: Leave
}

/** A section of words alone is one part; one with pictures a group of parts, so that it can be gated as a whole. */
function partsOf(sections: readonly Section[], page: string, making: Making): PartTree[] {
  return sections.flatMap(({ title, pieces }) => {
    const name = `${page}-${slug(title ?? '').slice(0, 30)}`.replace(/-+$/, '')
    const [first] = pieces
    if (title !== undefined && pieces.length === 1 && 'markdown' in first!)
      return [textPart(making.partIds(name), first.markdown, title)]
    if (title === undefined) return pieces.flatMap(piece => partOf(piece, page, making))
    const key = making.partIds(name)
    const parts = pieces.flatMap(piece => partOf(piece, name, making))
    if (!parts.length) return []
    return [{ key, thing: { kind: 'group', title, body: {} }, parts }]
  })
}

const textPart = (key: string, markdown: string, title?: string): PartTree => ({
  key,
  thing: { kind: 'text', ...(title === undefined ? {} : { title }), body: { markdown } },
  parts: [],
})

function partOf(piece: Piece, name: string, { given, folder, partIds, leave }: Making): PartTree[] {
  if ('markdown' in piece) return [textPart(partIds(`${name}-words`), piece.markdown)]
  const { picture: url, alt, caption } = piece
  const stored = given.pictures.get(url)
  if (stored === undefined) {
    leave('picture', url)
    return []
  }
  const file = picturePath(stored)
  folder.pictures[file] = stored
  const body = { file, alt, ...(caption ? { caption } : {}) }
  return [{ key: partIds(`${name}-picture`), thing: { kind: 'picture', body }, parts: [] }]
}

/** Links that lead to nothing that comes along. */
function nameLost(
  { leads }: HtmlPage,
  { given, idAt, leave }: { given: SiteGiven; idAt(path: string): string | undefined; leave: Leave },
): void {
  for (const link of leads) {
    const path = siteAddress(new URL(link), given.within)
    if (path === undefined || idAt(path) !== undefined || given.draft.at(path)) continue
    leave(isFile.test(path) ? 'file' : 'nowhere link', path)
  }
}

/** The nearest page above it by its address. The front page is above nothing by itself. */
function parentOf(address: string, idAt: (path: string) => string | undefined): string | undefined {
  for (let end = address.lastIndexOf('/'); end > 0; end = address.lastIndexOf('/', end - 1)) {
    const id = idAt(address.slice(0, end))
    if (id !== undefined) return id
  }
  return undefined
}

/** Said where it is another than the site's. */
function languageOf({ language }: HtmlPage, own: string): Data {
  const primary = (tag: string) => tag.split('-')[0]!.toLowerCase()
  return language && isLanguageTag(language) && primary(language) !== primary(own) ? { language } : {}
}

const menuTitles = { main: 'Main', footer: 'Footer' } as const

/** The navigation of the first page that has one. Entries there are stay, unless one that is brought leads there too. */
function addMenus(given: SiteGiven, folder: SiteFolder, idAt: (path: string) => string | undefined): void {
  for (const menu of ['main', 'footer'] as const) {
    const entries = given.pages.map(page => page.read.menus[menu]).find(list => list.length)
    if (!entries) continue
    const file = `menus/${menu}.yaml`
    if (given.without?.has(file)) continue
    const there = given.draft.all('menu').get(menu)
    const { leave, all } = leavingOut()
    const made = entriesOf(entries, { menu, draft: given.draft, there: there?.items ?? [], idAt, leave })
    const left = all()
    if (left.length) folder.notKept.push({ left })
    if (!made.length) continue
    const said = { title: there?.title ?? menuTitles[menu], whenRefused: there?.whenRefused }
    folder.files[file] = stringify({ ...said, entries: made }, { lineWidth: 0, keepUndefined: false })
    folder.list.push({ file, isMenu: true, title: said.title, holds: made.length, replaces: there !== undefined })
  }
}

interface Menus {
  menu: string
  draft: SiteIndex
  there: readonly MenuItem[]
  idAt(path: string): string | undefined
  leave: Leave
}

function entriesOf(entries: readonly OutsideEntry[], { menu, draft, there, idAt, leave }: Menus): Data[] {
  const taken = new Set(draft.all('menuItem').keys())
  const placeOf = (to: unknown) => JSON.stringify(to)
  const before = new Map(there.map(item => [placeOf(item.to), item]))
  const reused = new Set<MenuItem>()
  const made: Data[] = []
  const add = (list: readonly OutsideEntry[], under?: string): void => {
    for (const { label, to, own, under: inner } of list) {
      const [path = '', hash] = (to ?? '').split('#')
      const page = own ? idAt(path) : undefined
      const leads =
        to === undefined
          ? undefined
          : page === undefined || hash
            ? own && page === undefined
              ? null
              : { url: to }
            : { page }
      if (leads === null || /^(mailto|tel):/.test(to ?? '')) {
        leave('entry', `${label} (${to})`)
        if (!inner.length) continue
      }
      const known = leads ? before.get(placeOf(leads)) : undefined
      const isFree = known !== undefined && !reused.has(known)
      if (isFree) reused.add(known)
      const id = isFree ? known.id : fresh(`${menu}-${slug(label)}`, menu, taken)
      taken.add(id)
      made.push({ id, label, ...(leads ? { to: leads } : {}), ...(under === undefined ? {} : { under }) })
      add(inner, id)
    }
  }
  add(entries)
  const ids = new Set([...reused].map(one => one.id))
  const kept = there.filter(item => !ids.has(item.id))
  const keptIds = new Set([...ids, ...kept.map(one => one.id)])
  return [
    ...made,
    ...kept.map(({ under, ...item }) => ({ ...item, ...(under && keptIds.has(under) ? { under } : {}) })),
  ]
}
