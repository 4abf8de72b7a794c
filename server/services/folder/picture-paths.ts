/** Stored pictures in a folder of files: each is a file of its own, which the parts that show it name by its path. */
import { pictureMark, readPictureName } from '../../../core/pictures/picture-file'
import { serverKinds } from '../../kinds/kinds'
import type { VersionedThing } from '../../kinds/kinds'

type Data = Record<string, unknown>

export const picturePath = (name: string) => `pictures/${pictureMark(name)}.${readPictureName(name)?.type}`
export const isPicturePath = (file: string) => /^pictures\/[^/]+$/.test(file)

/** Pictures a thing names, by names or by paths, and where. */
export const picturesOf = (kind: string, thing: Data) => serverKinds[kind as VersionedThing]?.pictures?.(thing) ?? []

/** The same thing with another name at that place. */
export function withPicture(thing: Data, [key, ...rest]: readonly (string | number)[], name: string): Data {
  return { ...thing, [key!]: rest.length ? withPicture((thing[key!] ?? {}) as Data, rest, name) : name }
}
