/** What was read of another site, from its address or from files, as a folder for the draft as it is now. */
import type { AnyDb } from '../../db/database'
import { inTransaction } from '../../db/turn'
import { readHtmlBeside } from '../../reading/reading'
import { draftContents, readState } from '../versions/versions'
import type { StoredContents } from '../versions/versions'
import { baseOf } from './read-on'
import { itemsRead } from './readings'
import { folderOfSite } from './site-folder'
import type { NotKept, OutsidePage, SiteFolder, SiteGiven } from './site-folder'

const ofDraft = ({ index }: StoredContents): Pick<SiteGiven, 'draft' | 'language'> => ({
  draft: index,
  language: index.site.locale ?? 'en',
})

/** Throws `no-reading`, or `reading-under-way` before its end. */
export async function folderOfReading(
  tx: AnyDb,
  draft: StoredContents,
  without?: ReadonlySet<string>,
): Promise<SiteFolder> {
  const { reading, items } = await itemsRead(tx)
  const pages: OutsidePage[] = []
  const pictures = new Map<string, string>()
  const unread: NotKept[] = []
  for (const { address, outcome } of items) {
    if (outcome === null) unread.push({ url: address, why: 'Not read: it was given up before.', left: [] })
    else if ('page' in outcome) pages.push({ url: address, read: outcome.page })
    else if ('picture' in outcome) pictures.set(address, outcome.picture)
    else if ('unread' in outcome) unread.push({ url: address, why: outcome.unread, left: [] })
  }
  const folder = folderOfSite({
    pages,
    pictures,
    within: { base: baseOf(reading.address) },
    without,
    ...ofDraft(draft),
  })
  return { ...folder, notKept: [...folder.notKept, ...unread] }
}

/** Where files of a folder lie as addresses: of no host there is (RFC 2606). */
const base = 'http://folder.invalid/'
const urlOf = (path: string) => base + path.split('/').map(encodeURIComponent).join('/')

export async function folderOfFiles(
  db: AnyDb,
  { files, pictures }: { files: Record<string, string>; pictures: Record<string, string> },
  without?: ReadonlySet<string>,
): Promise<SiteFolder> {
  const within = { base, files: true }
  const pages: OutsidePage[] = []
  const unread: NotKept[] = []
  for (const [path, html] of Object.entries(files)) {
    const read = await readHtmlBeside({ html, url: urlOf(path), within })
    if ('unread' in read) unread.push({ url: path, why: read.unread, left: [] })
    else pages.push({ url: urlOf(path), read })
  }
  const stored = new Map(Object.entries(pictures).map(([path, name]) => [urlOf(path), name]))
  const draft = await inTransaction(db, async tx => draftContents(tx, await readState(tx)))
  const folder = folderOfSite({ pages, pictures: stored, within, without, ...ofDraft(draft) })
  const named = folder.notKept.map(one =>
    one.url ? { ...one, url: decodeURIComponent(one.url.slice(base.length)) } : one,
  )
  return { ...folder, notKept: [...named, ...unread] }
}
