/** What lies directly in something that holds things: posts of a topic, downloads of a folder, goods and categories of a category. */
import type { Download } from '../kinds/download'
import type { SiteIndex } from './site-index'
import { listedKinds, moduleOf } from '../kinds/kinds'
import type { Kind, Resource } from '../kinds/kinds'

/**
 * `of` names one holder, `{ topic: 'notes' }`, or all things of a kind, `{ kind: 'post' }`. The newest first; what has no
 * day after them, in the order of the site. Worked out once for a site, whoever asks.
 */
export function thingsIn(of: Record<string, string>, index: SiteIndex): readonly Resource[] {
  const [holder, id] = Object.entries(of)[0] as [string, string]
  let lists = sorted.get(index)
  if (!lists) sorted.set(index, (lists = new Map()))
  const key = `${holder}:${id}`
  let found = lists.get(key)
  if (!found) lists.set(key, (found = newestFirst(inSiteOrder(holder, id, index), index)))
  return found
}
const sorted = new WeakMap<SiteIndex, Map<string, readonly Resource[]>>()

function newestFirst(things: readonly Resource[], index: SiteIndex): readonly Resource[] {
  const days = new Map(
    things.map(thing => [thing, moduleOf(thing.kind).day?.(index.get(thing.kind as string, thing.id) as never) ?? '']),
  )
  return things.toSorted((a, b) => (days.get(a)! < days.get(b)! ? 1 : days.get(a)! > days.get(b)! ? -1 : 0))
}

/** Downloads of a folder, and with `below` of the folders in it, in the order of the site. */
export function filesIn(folder: string, index: SiteIndex, below: boolean): Resource[] {
  const lies = (one: Download) =>
    below ? index.lineage('folder', one.folder ?? '').includes(folder) : one.folder === folder
  return [...index.all('download').values()].filter(lies).map(({ id }): Resource => ({ kind: 'download', id }))
}

function inSiteOrder(holder: string, id: string, index: SiteIndex): readonly Resource[] {
  if (holder === 'kind') return listedKinds.has(id as Kind) ? allOf(id as Kind, index) : []
  return heldIn(index).get(`${holder}:${id}`) ?? []
}

const allOf = (kind: Kind, index: SiteIndex) => [...index.all(kind).keys()].map((id): Resource => ({ kind, id }))

/** What lies in each, by its kind and id: read once for a site, since every thing says itself what it lies in. */
const held = new WeakMap<SiteIndex, Map<string, Resource[]>>()
function heldIn(index: SiteIndex): ReadonlyMap<string, readonly Resource[]> {
  let known = held.get(index)
  if (known) return known
  held.set(index, (known = new Map()))
  for (const kind of listedKinds) {
    const { names } = moduleOf(kind)
    for (const thing of names ? allOf(kind, index) : []) {
      const keys = names!(index.get(kind as string, thing.id) as never)
        .filter(one => !isBeside(kind, one.kind, one.at[0]))
        .map(one => `${one.kind}:${one.id}`)
      for (const key of new Set(keys)) {
        const list = known.get(key)
        if (list) list.push(thing)
        else known.set(key, [thing])
      }
    }
  }
  return known
}

/** A block that stands in something is a part of it, not something it lists; so are items of menus. */
const isBeside = (kind: Kind, holder: string, at: string | number | undefined) =>
  at === 'in' || (kind !== holder && at === 'to')
