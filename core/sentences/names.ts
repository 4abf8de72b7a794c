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

/** More than that could be meant by nearly anything. */
const mostAlike = 2000
/** By each word of their names, and by what `alike` makes of it: a long list is gone through once. */
const worded = new WeakMap<readonly Named[], Map<string, Named[]>>()
function byWordIn(list: readonly Named[], alike: (word: string) => string): Map<string, Named[]> {
  let byWord = worded.get(list)
  if (!byWord) {
    worded.set(list, (byWord = new Map()))
    for (const one of list) {
      const name = folded(one.name)
      const words = [...(name.match(/[\p{L}\p{N}'’&-]+/gu) ?? []), ...(name.match(/[\p{L}\p{N}]+/gu) ?? [])]
      for (const part of new Set(words.flatMap(word => [word, folded(alike(word))]))) {
        const same = byWord.get(part)
        if (same) same.push(one)
        else byWord.set(part, [one])
      }
    }
  }
  return byWord
}

/** Those that could be meant by a phrase: what has the rarest of its words, or a form of it; none where that are very many. */
export function couldBe(list: readonly Named[], words: readonly string[], alike: (word: string) => string): Named[] {
  const byWord = byWordIn(list, alike)
  const sets = words.map(word => [byWord.get(folded(word)) ?? [], byWord.get(folded(alike(word))) ?? []] as const)
  const size = ([one, other]: (typeof sets)[number]) => one.length + other.length
  const fewest = sets.reduce((least, one) => (size(one) < size(least) ? one : least), sets[0] ?? ([[], []] as const))
  return size(fewest) > 2 * mostAlike ? [] : [...new Set([...fewest[0], ...fewest[1]])]
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
