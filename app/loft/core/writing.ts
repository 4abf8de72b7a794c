/**
 * What the things of the site hold, with what is typed in them. Contents are read as they are needed, and remembered by
 * version.
 */
import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import type { Condition } from '~~/core/conditions/condition'
import { nameOf } from '~~/core/editions/contents'
import type { VersionedThing } from '~~/core/kinds/kinds'
import { textOf, withText } from '~~/core/pages/text-of'
import { restated } from '~~/core/texts/passages'
import { askWorld } from '~/loft/core/worker/questions'
import { useLoft } from './loft'
import { loftApi } from './loft-api'
import type { LookedThing } from './loft-api'
import { reading } from './reading'

export interface ThingName {
  kind: VersionedThing
  key: string
}
type Parts = Record<string, unknown>

const saveDelayMs = 500
/** As many versions are read at once. */
const mostRows = 500

export const useWriting = defineStore('writing', () => {
  const loft = useLoft()
  /** By row and revision. */
  const known = shallowRef<ReadonlyMap<string, LookedThing>>(new Map())
  /** What is typed of things, by `kind key`. */
  const typed = computed(
    () =>
      new Map(
        [...loft.typed].flatMap(([name, one]) =>
          'parts' in one ? [[name, { kind: one.kind, key: one.key, parts: one.parts }] as const] : [],
        ),
      ),
  )
  /** The latest of each that was read, by `kind key`. */
  const latest = new Map<string, LookedThing>()
  const asked = new Map<number, Promise<void>>()

  const versionKey = ({ id, revision }: { id: number; revision: number }) => `${id}.${revision}`

  /** A thing as it is kept, where that has been read. */
  const kept = ({ kind, key }: ThingName): LookedThing | undefined => {
    const version = loft.contents.get(kind, key)
    // Between being kept and being known as that there is a moment: until then it is what it was.
    const found = version && (known.value.get(versionKey(version)) ?? latest.get(nameOf({ kind, key })))
    const { passages } = (version?.body ?? {}) as { passages?: (Condition | null)[] }
    const text = found && passages ? textOf(found.thing) : undefined
    if (!found || !passages || text === undefined) return found
    // Whom a passage is for is said by the names things have now.
    const now = restated(text, passages, loft.lexicon)
    return now === text ? found : { ...found, thing: withText(found.thing, now) }
  }
  /** The same with what is typed in it. */
  const looked = (name: ThingName): LookedThing | undefined => {
    const found = kept(name)
    const parts = typed.value.get(nameOf(name))?.parts
    return found && parts ? { ...found, thing: { ...found.thing, ...parts } } : found
  }

  function remember(things: readonly LookedThing[]): void {
    for (const one of things) latest.set(`${one.kind} ${one.id}`, one)
    known.value = new Map([...known.value, ...things.map(one => [versionKey(one.version), one] as const)])
    void askWorld(
      'contents',
      things.map(({ version, thing }) => ({ ...version, content: thing })),
    )
  }

  /** Reads versions by their rows, and tells the core; each once, though several ask for it. Throws where they cannot be read. */
  async function learn(rows: readonly number[]): Promise<void> {
    const fresh = rows.filter(row => !asked.has(row))
    for (let at = 0; at < fresh.length; at += mostRows) {
      const some = fresh.slice(at, at + mostRows)
      const reading = loftApi('GET things', { query: { rows: some.join(',') } })
        .then(found => {
          remember(found)
          // Of what may not be looked at nothing is known, and it is not asked for again.
          const told = new Set(found.map(one => one.version.id))
          const unknown = some.filter(row => !told.has(row))
          const versions = loft.contents.thingVersions.filter(one => unknown.includes(one.id))
          return askWorld(
            'contents',
            versions.map(({ id, revision }) => ({ id, revision, content: null })),
          )
        })
        .then(() => {})
        .finally(() => some.forEach(row => asked.delete(row)))
      some.forEach(row => asked.set(row, reading))
    }
    await Promise.all(rows.map(row => asked.get(row)))
  }
  /** Reads these, so that they can be written. Throws where they cannot be read: nothing is written over what nobody knows. */
  const read = (names: readonly ThingName[]): Promise<void> =>
    learn(
      names.flatMap(name => {
        const version = loft.contents.get(name.kind, name.key)
        return version?.id && !known.value.has(versionKey(version)) ? [version.id] : []
      }),
    )

  /** What is shown and could not be read yet, by name. */
  const missed = new Map<string, ThingName>()
  /** Reads these to show them: where that fails it is told above the place and can be asked for again, and whoever waits goes on. */
  function show(names: readonly ThingName[]): Promise<void> {
    names.forEach(name => missed.set(nameOf(name), name))
    let some: ThingName[] = []
    const ask = () => read((some = [...missed.values()]))
    return reading('what is written here', ask, () => some.forEach(name => missed.delete(nameOf(name))))
  }

  /** Reads one anew, where something of it moved that has no versions: who looks after it. */
  async function reread(name: ThingName): Promise<void> {
    const version = loft.contents.get(name.kind, name.key)
    if (version) await learn([version.id])
  }

  /** What was written is known without being read again; what something else made of things that were read is read. */
  loft.onKept(({ changed }, written) => {
    const moved = changed.flatMap(({ kind, key }) => {
      const was = latest.get(nameOf({ kind, key }))
      const version = loft.contents.get(kind, key)
      return was && version?.id ? [{ was, version: { id: version.id, revision: version.revision } }] : []
    })
    const unread = moved.filter(({ was, version }) => {
      if (!written || !('parts' in written) || nameOf(written) !== `${was.kind} ${was.id}`) return true
      remember([{ ...was, version, thing: { ...was.thing, ...written.parts } }])
      return false
    })
    if (unread.length) void learn(unread.map(({ version }) => version.id)).catch(() => {})
  })

  /** Changes parts of a thing here at once, and in the draft shortly after. */
  const write = ({ kind, key }: ThingName, parts: Parts, delayMs = saveDelayMs): void =>
    loft.write({ kind, key, parts }, delayMs)

  return { kept, looked, learn, read, show, reread, write, typed }
})
