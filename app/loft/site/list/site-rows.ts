/** What there is on the site, by kind and place, as the list of Site shows it. */
import { holderModules } from '~~/core/kinds/kinds'
import type { VersionedThing } from '~~/core/kinds/kinds'
import { kindNames, kindPlurals } from '~~/core/sentences/words'
import type { SiteIndex } from '~~/core/site/site-index'
import { wordsIn } from '~/kinds/described'
import { appKinds } from '~/kinds/kinds'
import { childrenOf } from '~/loft/kit/things/tree'

export interface KindRow {
  type: 'kind'
  key: string
  kind: VersionedThing
  title: string
  count: number
  open: boolean
}
export interface SiteRow {
  type: 'thing'
  key: string
  kind: VersionedThing
  id: string
  title: string
  depth: number
  below: number
  open: boolean
}

export const listedKinds = (Object.keys(appKinds) as VersionedThing[])
  .filter(kind => appKinds[kind].listed)
  .sort((a, b) => appKinds[a].listed!.order - appKinds[b].listed!.order)

export interface SiteRowsAsk {
  index: SiteIndex
  kinds: readonly VersionedThing[]
  /** Only these, by `kind id`, with what they lie under. */
  only: ReadonlySet<string> | null
  /** Kinds and things whose rows are folded, by key. */
  folded: ReadonlySet<string>
}

type Thing = { id: string } & Record<string, unknown>

/**
 * What only holds others, as menus, topics and folders do, is on no board: names of those the words are found in. Of a
 * menu its entries count too.
 */
export function namedHolders(index: SiteIndex, kinds: readonly VersionedThing[], text: string): string[] {
  const words = wordsIn(text)
  return kinds
    .filter(kind => Object.hasOwn(holderModules, kind))
    .flatMap(kind =>
      ([...index.all(kind).values()] as unknown as Thing[]).flatMap(one => {
        const entries = ((one.items ?? []) as { label?: string }[]).map(({ label = '' }) => label)
        const said = `${appKinds[kind].title(one)} ${kindNames[kind]} ${one.id} ${entries.join(' ')}`.toLowerCase()
        return words.every(word => said.includes(word)) ? [`${kind} ${one.id}`] : []
      }),
    )
}

/** A row for each kind and, below it, for what there is of it; a tree where some lie under others. */
export function siteRows({ index, kinds, only, folded }: SiteRowsAsk): (KindRow | SiteRow)[] {
  return kinds.flatMap(kind => {
    const { parent, title } = appKinds[kind]
    const all = [...index.all(kind).values()] as unknown as Thing[]
    const found = only ? all.filter(one => only.has(`${kind} ${one.id}`)) : all
    if (only && !found.length) return []
    const key = `kind ${kind}`
    const open = !folded.has(key) || only !== null
    const head: KindRow = { type: 'kind', key, kind, title: kindPlurals[kind], count: found.length, open }
    if (!open) return [head]
    const children = childrenOf(found, one => one.id, parent)
    const walk = (id: string | undefined, depth: number): SiteRow[] =>
      (children.get(id) ?? []).flatMap(one => {
        const name = `${kind} ${one.id}`
        const below = children.get(one.id)?.length ?? 0
        const unfolded = below > 0 && (only !== null || !folded.has(name))
        const row: SiteRow = {
          type: 'thing',
          key: name,
          kind,
          id: one.id,
          title: title(one),
          depth,
          below,
          open: unfolded,
        }
        return [row, ...(unfolded && depth < 30 ? walk(one.id, depth + 1) : [])]
      })
    return [head, ...walk(undefined, 0)]
  })
}
