/** Things of the site a task begins with, until somebody chooses another: those that fit best. */
import type { TaskSite } from './task'

type Gated = 'page' | 'post' | 'product' | 'download' | 'category'
const gatesAt = ({ draft }: TaskSite, kind: string, id: string) =>
  (draft.gates ?? []).filter(({ on }) => (on as Record<string, unknown>)[kind] === id)
/** No gate stands at it, or at what it lies under. */
const isFree = (site: TaskSite, kind: Gated, id: string) =>
  site.index.lineage(kind, id).every(one => !gatesAt(site, kind, one).length)
const boardAt = (kind: string, id: string) => `/loft?thing=${kind}:${encodeURIComponent(id)}&tier=guest`
const plain = (site: TaskSite, kind: Gated) =>
  ([...site.index.all(kind).values()] as { id: string; path?: string; of?: string; parent?: string }[]).filter(
    one => one.of === undefined && !['/', '/account'].includes(one.path ?? ''),
  )

/** On the board, as a guest: the first of a kind with a gate of its own that says only whom it opens to, or with none around it. */
export const onBoard =
  (kind: Gated, gated: boolean) =>
  (site: TaskSite): string => {
    const all = plain(site, kind)
    const isPlain = (gates: ReturnType<typeof gatesAt>) =>
      gates.length > 0 && gates.every(gate => !gate.find && !gate.search)
    const found = all.find(one => (gated ? isPlain(gatesAt(site, kind, one.id)) : isFree(site, kind, one.id))) ?? all[0]
    return found ? boardAt(kind, found.id) : '/loft'
  }

/** On the board: the first page with others below it that has no gate yet. */
export const section = (site: TaskSite): string => {
  const pages = plain(site, 'page')
  const around = pages.filter(one => pages.some(other => other.parent === one.id))
  const found = around.find(one => isFree(site, 'page', one.id)) ?? around[0]
  return found ? boardAt('page', found.id) : onBoard('page', false)(site)
}

/** The level of the highest rank. */
const topLevel = (loft: TaskSite) => [...(loft.draft.levels ?? [])].sort((a, b) => (b.rank ?? 0) - (a.rank ?? 0))[0]
const firstRole = (loft: TaskSite) => (loft.draft.roles ?? []).find(role => !role.staff)
const paneOf = (kind: string, id: string | undefined) => (id === undefined ? '/loft/who' : `/loft/who?at=${kind}:${id}`)
export const atLevel = (loft: TaskSite) => paneOf('level', topLevel(loft)?.id)
export const atRole = (loft: TaskSite) => paneOf('role', firstRole(loft)?.id)

/** Somebody a price could be for, as a line says them. */
export const someRole = (loft: TaskSite): string => firstRole(loft)?.name ?? 'guests'

export const atMenu = (loft: TaskSite): string => {
  const [menu] = loft.index.all('menu').keys()
  return menu === undefined ? '/loft/site' : `/loft/site?thing=menu:${encodeURIComponent(menu)}`
}
