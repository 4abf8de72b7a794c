/** Finds what is wrong between the things of a site: names that lead nowhere, rings, addresses held twice. */
import { nameOf } from '../editions/contents'
import type { Contents, Version } from '../editions/contents'
import { issue } from '../errors'
import type { Issue } from '../errors'
import { moduleOf } from '../kinds/kinds'
import type { Kept } from '../kinds/kinds'
import type { Naming } from '../kinds/kind'
import { pointer } from '../pointer'
import { conditionChecker } from './references'
import { isOwnAddress } from '../site/own-addresses'

/** An issue of one thing; `at` points into its body. */
export interface ThingIssue extends Issue {
  kind: Kept
  key: string
}

const namesOf = ({ kind, body }: Version): Naming[] => moduleOf(kind).names?.(body as never) ?? []
const pathOf = ({ kind, body }: Version): string | undefined => moduleOf(kind).path?.(body as never)

/**
 * What is wrong with the things of `contents`. With `only`, names of changed things, just they and
 * whatever names them are looked at: what was right before stays right otherwise.
 */
export function siteIssues(contents: Contents, only?: ReadonlySet<string>): ThingIssue[] {
  const holders = new Map<string, Version>()
  const found: ThingIssue[] = []
  const add = ({ kind, key }: Version, found1: Issue) => found.push({ ...found1, kind: kind as Kept, key })
  const things = contents.thingVersions
  const check = conditionChecker(contents.book as unknown as Record<string, unknown>, contents.index)
  for (const one of things) {
    const path = pathOf(one)
    if (path !== undefined) {
      const other = holders.get(path)
      if (other) add(one, issue('/path', 'address-taken', `${titleOf(other)} has it.`, path))
      else holders.set(path, one)
    }
    const names = namesOf(one)
    const touched = !only || only.has(nameOf(one))
    const { passages, accent } = one.body as Written
    // Whom a passage is for depends on rules, whichever of the two was changed.
    for (const found1 of passages ? check(placed(passages)) : []) add(one, found1)
    for (const found1 of accent?.for ? check([[accent.for, ['accent', 'for']]]) : []) add(one, found1)
    if (path !== undefined && touched && isOwnAddress(path)) add(one, issue('/path', 'own-address', undefined, path))
    if (!touched && !names.some(({ kind, id }) => only.has(`${kind} ${id}`))) continue
    for (const { at, kind, id } of names)
      if (!contents.get(kind as Kept, id)) add(one, issue(pointer(at), 'dangling-id', undefined, id))
    const wrong = moduleOf(one.kind).wrong?.(one.body as never, contents.index) ?? []
    for (const { at, code, found: what } of wrong) add(one, issue(pointer(at), code, undefined, what))
    const ring = names.find(({ kind, id, within }) => within && liesIn(contents, kind, id, one))
    if (ring) add(one, issue(pointer(ring.at), 'in-itself', undefined, ring.id))
  }
  return found
}

/** Whether the thing of that kind and id lies, at whatever depth, in `target`. */
export function liesIn(contents: Contents, kind: string, id: string, target: { kind: string; key: string }): boolean {
  const seen = new Set<string>()
  const open = [`${kind} ${id}`]
  while (open.length) {
    const name = open.pop()!
    if (name === nameOf(target)) return true
    if (seen.has(name)) continue
    seen.add(name)
    const space = name.indexOf(' ')
    const at = contents.get(name.slice(0, space) as Kept, name.slice(space + 1))
    if (at) for (const one of namesOf(at)) if (one.within) open.push(`${one.kind} ${one.id}`)
  }
  return false
}

/** As many lie in one another, at most: more is no arrangement anybody could find their way in. */
export const deepest = 30

/** How many a thing lies in, itself counted; no further than `deepest`. */
export function depthOf(contents: Contents, kind: string, id: string): number {
  let depth = 0
  let at: { kind: string; id: string } | undefined = { kind, id }
  for (; at && depth <= deepest; depth++) {
    const found: Version | undefined = contents.get(at.kind as Kept, at.id)
    at = found && namesOf(found).find(one => one.within)
  }
  return depth
}

/** How many lie in one another in it, itself counted; no further than `deepest`. */
export function heightOf(contents: Contents, name: string): number {
  let height = 0
  let level: ReadonlySet<string> = new Set([name])
  for (; level.size && height <= deepest; height++) {
    const inside = contents.thingVersions.filter(one =>
      namesOf(one).some(({ kind, id, within }) => within && level.has(`${kind} ${id}`)),
    )
    level = new Set(inside.map(nameOf))
  }
  return height
}

interface Written {
  passages?: (object | null)[]
  accent?: { for?: object }
  broken?: true
}
const placed = (passages: readonly (object | null)[]) =>
  passages.flatMap((one, i): [object, (string | number)[]][] => (one ? [[one, ['passages', i]]] : []))

/** Texts nobody would be sent, since a passage in them is not right. They may wait in a draft, and be published in none. */
export function brokenTexts(contents: Contents): ThingIssue[] {
  return contents.thingVersions.flatMap(({ kind, key, body }) => {
    const { passages, broken } = body as Written
    return broken || passages?.includes(null) ? [{ ...issue('/text', 'broken-text'), kind: kind as Kept, key }] : []
  })
}

const titleOf = ({ key, body }: Version) => `“${(body as { title?: string } | null)?.title ?? key}”`

/** Names of everything in `contents` that names one of `names`. */
export function namersOf<V extends Version>(contents: Contents<V>, names: ReadonlySet<string>): V[] {
  return contents.thingVersions.filter(one => namesOf(one).some(({ kind, id }) => names.has(`${kind} ${id}`)))
}
