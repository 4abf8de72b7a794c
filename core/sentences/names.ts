/** Names found quickly: what a list of a hundred thousand things calls one, and which of them a text names. */

export interface Named {
  id: string
  name: string
}

/** What one of a list is called: by its id where it has no name, or is not there. */
export const called = (list: readonly { id: string; name?: string | undefined }[] | undefined, id: string): string =>
  list?.find(one => one.id === id)?.name ?? id

interface Names {
  byId: ReadonlyMap<string, Named>
  /** All that are called that, in small letters. */
  called: ReadonlyMap<string, readonly Named[]>
  /** Words of the longest name. */
  words: number
}

export const folded = (text: string) => text.toLowerCase()

/** Lists are never changed: each is read once. */
const read = new WeakMap<readonly Named[], Names>()
export function namesIn(list: readonly Named[]): Names {
  let names = read.get(list)
  if (!names) {
    const called = new Map<string, Named[]>()
    for (const one of list) {
      const same = called.get(folded(one.name))
      if (same) same.push(one)
      else called.set(folded(one.name), [one])
    }
    const words = list.reduce((most, one) => Math.max(most, one.name.split(' ').length), 1)
    names = { byId: new Map(list.map(one => [one.id, one])), called, words }
    read.set(list, names)
  }
  return names
}

/** Parts of names, in small letters, for finding by how they begin. */
const parted = new WeakMap<readonly Named[], string[][]>()
/** Those of a long list whose names have a part that begins with one of these words: at most `most` of them. */
export function beginningWith(list: readonly Named[], words: readonly string[], most: number): readonly Named[] {
  if (list.length <= most) return list
  let parts = parted.get(list)
  if (!parts) parted.set(list, (parts = list.map(one => folded(one.name).split(/[\s"#(),/-]+/))))
  const fits = (how: 'every' | 'some') => {
    const found: Named[] = []
    for (let i = 0; i < list.length && found.length < most; i++)
      if (words[how](word => parts[i]!.some(part => part.startsWith(word)))) found.push(list[i]!)
    return found
  }
  // Words may also belong to the phrase around the name, but what has all of them comes first.
  const all = fits('every')
  return all.length ? all : fits('some')
}
