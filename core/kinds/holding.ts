/** What lies directly in something that holds things: posts of a topic, downloads of a folder, goods and categories of a category. */
import type { Download } from './download'
import type { SiteIndex } from '../site/site-index'
import { listedKinds, moduleOf } from './kinds'
import type { Kind, Resource } from './kinds'

/** `of` names one holder, `{ topic: 'notes' }`, or all things of a kind, `{ kind: 'post' }`. The newest first; what has no day after them, in the order of the site. */
export function thingsIn(of: Record<string, string>, index: SiteIndex): Resource[] {
  const found = inSiteOrder(of, index)
  const dayOf = ({ kind, id }: Resource) => moduleOf(kind).day?.(index.get(kind as string, id) as never) ?? ''
  return found.toSorted((a, b) => (dayOf(a) < dayOf(b) ? 1 : dayOf(a) > dayOf(b) ? -1 : 0))
}

/** Downloads of a folder, and with `below` of the folders in it, in the order of the site. */
export function filesIn(folder: string, index: SiteIndex, below: boolean): Resource[] {
  const lies = (one: Download) =>
    below ? index.lineage('folder', one.folder ?? '').includes(folder) : one.folder === folder
  return [...index.all('download').values()].filter(lies).map(({ id }): Resource => ({ kind: 'download', id }))
}

function inSiteOrder(of: Record<string, string>, index: SiteIndex): Resource[] {
  const [holder, id] = Object.entries(of)[0] as [string, string]
  const all = (kind: Kind) => [...index.all(kind).keys()].map((key): Resource => ({ kind, id: key }))
  if (holder === 'kind') return listedKinds.has(id as Kind) ? all(id as Kind) : []
  return [...listedKinds].flatMap(kind => {
    const { names } = moduleOf(kind)
    if (!names) return []
    return all(kind).filter(thing =>
      names(index.get(kind, thing.id) as never).some(
        one => one.kind === holder && one.id === id && !isBeside(kind, holder, one.at[0]),
      ),
    )
  })
}

/** A block that stands in something is a part of it, not something it lists; so are items of menus. */
const isBeside = (kind: Kind, holder: string, at: string | number | undefined) =>
  at === 'in' || (kind !== holder && at === 'to')
