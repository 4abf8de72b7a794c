/** The pages, posts, menus and frame of an edition as a folder of files. */
import { stringify } from 'yaml'
import { frameParts } from '../../../core/kinds/block'
import type { AnyDb } from '../../db/database'
import { contentOf } from '../versions/versions'
import type { StoredContents, StoredVersion } from '../versions/versions'
import { picturePath, picturesOf, withPicture } from './picture-paths'
import { writePage } from '../../reading/page-file'
import type { PartTree } from '../../reading/page-file'
import type { VersionedThing } from '../../kinds/kinds'
import { lookable } from '../editions/thing-rights'
import type { Worker } from '../live/worker'

type Data = Record<string, unknown>

/** Everything staff give of things, by `kind key`: without what follows from it. */
export async function givenThings(tx: AnyDb, contents: StoredContents): Promise<ReadonlyMap<string, Data>> {
  const things = contents.thingVersions
  const content = await contentOf(
    tx,
    things.map(one => one.id),
  )
  return new Map(
    things.map((one: StoredVersion) => {
      const { id: _, passages: _p, broken: _b, ...body } = one.body as Data
      return [`${one.kind} ${one.key}`, { ...body, ...content.get(one.id) }]
    }),
  )
}

/** A folder: files of words by path, and the names of stored pictures by the paths they have in it. */
export interface TakenFolder {
  files: Map<string, string>
  pictures: Map<string, string>
}

/** In the order of the site. An edition and what was typed meanwhile are told apart by `contents`. */
export const takeFolder = async (tx: AnyDb, contents: StoredContents): Promise<TakenFolder> =>
  folderOf(contents, await givenThings(tx, contents))

function folderOf({ index }: StoredContents, things: ReadonlyMap<string, Data>): TakenFolder {
  const given = withPaths(things)
  const files = new Map<string, string>()
  const partsIn = (kind: string, id: string): PartTree[] =>
    index.standingIn(kind, id).map(({ id: key }) => ({
      key,
      thing: given.get(`block ${key}`) ?? {},
      parts: partsIn('block', key),
    }))
  for (const kind of ['page', 'post'] as const)
    for (const { id, path } of index.all(kind).values()) {
      const thing = { id, ...given.get(`${kind} ${id}`) }
      files.set(`${kind}s${path === '/' ? '/index' : path}.md`, writePage(thing, partsIn(kind, id)))
    }
  for (const part of frameParts) {
    const parts = partsIn('frame', part)
    if (parts.length) files.set(`frame/${part}.md`, writePage({}, parts))
  }
  for (const menu of index.all('menu').values()) {
    const entries = menu.items.map(({ id }) => {
      const { menu: _, ...entry } = given.get(`menuItem ${id}`) ?? {}
      return { id, ...entry }
    })
    files.set(`menus/${menu.id}.yaml`, stringify({ ...given.get(`menu ${menu.id}`), entries }, { lineWidth: 0 }))
  }
  return { files, pictures: given.pictures }
}

/** Reads things with paths of files in place of the names of stored pictures, and notes those of what was read. */
function withPaths(given: ReadonlyMap<string, Data>) {
  const pictures = new Map<string, string>()
  const get = (name: string) => {
    let thing = given.get(name)
    for (const { at, name: picture } of thing ? picturesOf(kindIn(name), thing) : []) {
      const path = picturePath(picture)
      pictures.set(path, picture)
      thing = withPicture(thing!, at, path)
    }
    return thing
  }
  return { get, pictures }
}
const kindIn = (name: string) => name.split(' ')[0]!

/**
 * The same for whoever works in the console: files of which they may look at everything. A file of which they may not
 * is left out whole: brought back in parts it would take out the rest.
 */
export async function takeFolderAs(
  tx: AnyDb,
  contents: StoredContents,
  worker: Worker,
): Promise<{ files: Record<string, string>; pictures: Record<string, string>; leftOut: number }> {
  const given = await givenThings(tx, contents)
  const { files: all } = folderOf(contents, given)
  const things = contents.thingVersions.map(one => ({ ...one, kind: one.kind as VersionedThing }))
  const whole = new Set(
    (await lookable(tx, worker, things)).flatMap(({ one: { kind, key }, seen }) =>
      Object.keys(given.get(`${kind} ${key}`) ?? {}).every(seen) ? [`${kind} ${key}`] : [],
    ),
  )
  const { index } = contents
  const inside = (kind: string, id: string): string[] =>
    index.standingIn(kind, id).flatMap(one => [`block ${one.id}`, ...inside('block', one.id)])
  const namesIn = new Map<string, string[]>()
  for (const kind of ['page', 'post'] as const)
    for (const { id, path } of index.all(kind).values())
      namesIn.set(`${kind}s${path === '/' ? '/index' : path}.md`, [`${kind} ${id}`, ...inside(kind, id)])
  for (const part of frameParts) namesIn.set(`frame/${part}.md`, inside('frame', part))
  for (const menu of index.all('menu').values())
    namesIn.set(`menus/${menu.id}.yaml`, [`menu ${menu.id}`, ...menu.items.map(one => `menuItem ${one.id}`)])
  const mayTake = (file: string) => (namesIn.get(file) ?? []).every(name => whole.has(name))
  const files = [...all].filter(([file]) => mayTake(file))
  const pictures = files
    .flatMap(([file]) => namesIn.get(file)!)
    .flatMap(name => picturesOf(kindIn(name), given.get(name) ?? {}))
  return {
    files: Object.fromEntries(files),
    pictures: Object.fromEntries(pictures.map(({ name }) => [picturePath(name), name])),
    // What they may not look at is not named: drafts of others are among them.
    leftOut: [...all.keys()].filter(file => !mayTake(file)).length,
  }
}
