/**
 * What is written of the things of the site. Nothing is saved by hand: what is typed shows at once, reaches the draft
 * shortly after, and can be taken back step by step. Contents are read as they are needed, and remembered by version.
 */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Condition } from '~~/core/conditions/condition'
import { nameOf } from '~~/core/editions/contents'
import type { VersionedThing } from '~~/core/kinds/kinds'
import { textOf, withText } from '~~/core/pages/text-of'
import { restated } from '~~/core/texts/passages'
import { askWorld } from '~/loft/core/worker/questions'
import { useLoft } from './loft'
import { loftApi, Refusal } from './loft-api'
import type { DraftAction, LoftAsk, LookedThing, SavedChanges } from './loft-api'

export interface ThingName {
  kind: VersionedThing
  key: string
}
type Parts = Record<string, unknown>
interface Typed extends ThingName {
  parts: Parts
  /** As the parts were before the first of them was typed. */
  before: Parts
}
/** What was not kept, and why. */
export interface NotKept extends ThingName {
  message: string
  /** The part the server points at. */
  at: string
  /** Somebody else changed it meanwhile. */
  met: boolean
}
/** Something done that can be taken back. */
interface Step {
  words: string
  back(): Promise<unknown>
  again(): Promise<unknown>
}

const saveDelayMs = 500
/** As many versions are read at once. */
const mostRows = 500
const mostSteps = 200

export const useWriting = defineStore('writing', () => {
  const loft = useLoft()
  /** By row and revision. */
  const known = shallowRef<ReadonlyMap<string, LookedThing>>(new Map())
  const typed = shallowRef<ReadonlyMap<string, Typed>>(new Map())
  const notKept = shallowRef<ReadonlyMap<string, NotKept>>(new Map())
  const saving = ref(0)
  const done = shallowRef<Step[]>([])
  const undone = shallowRef<Step[]>([])
  /** The latest of each that was read, by `kind key`. */
  const latest = new Map<string, LookedThing>()
  const timers = new Map<string, ReturnType<typeof setTimeout>>()
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

  /** Reads versions by their rows, and tells the core; each once, though several ask for it. */
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
  /** Reads these, so that they can be written. */
  const read = (names: readonly ThingName[]): Promise<void> =>
    learn(
      names.flatMap(name => {
        const version = loft.contents.get(name.kind, name.key)
        return version?.id && !known.value.has(versionKey(version)) ? [version.id] : []
      }),
    )

  /** Reads one anew, where something of it moved that has no versions: who looks after it. */
  async function reread(name: ThingName): Promise<void> {
    const version = loft.contents.get(name.kind, name.key)
    if (version) await learn([version.id])
  }

  /** Changes parts of a thing here at once, and in the draft shortly after. */
  function write(name: ThingName, parts: Parts, delayMs = saveDelayMs): void {
    const at = nameOf(name)
    const now = kept(name)?.thing ?? {}
    const already = typed.value.get(at)
    const before = { ...Object.fromEntries(Object.keys(parts).map(part => [part, now[part]])), ...already?.before }
    typed.value = new Map(typed.value).set(at, { ...name, parts: { ...already?.parts, ...parts }, before })
    clearTimeout(timers.get(at))
    timers.set(
      at,
      setTimeout(() => void flush(at), delayMs),
    )
  }

  async function flush(at: string): Promise<void> {
    clearTimeout(timers.get(at))
    timers.delete(at)
    const entry = typed.value.get(at)
    if (entry) await going(save(entry))
  }
  /** Saves that are under way: whoever waits until all is kept waits for these too. */
  const underWay = new Set<Promise<void>>()
  async function going(work: Promise<void>): Promise<void> {
    underWay.add(work)
    try {
      await work
    } finally {
      underWay.delete(work)
    }
  }

  async function save(entry: Typed, over = false): Promise<void> {
    const { kind, key, parts, before } = entry
    const at = nameOf(entry)
    const was = kept(entry)
    saving.value++
    try {
      const given = Object.fromEntries(Object.entries(parts).map(([part, value]) => [part, value ?? null]))
      const expects = over || !was ? {} : { expects: was.version }
      const answer = await loft.act('PUT things/:kind/:key', {
        params: { kind, key },
        body: { ...given, ...expects },
      })
      take(answer, entry, was)
      step({
        words: 'what was written',
        back: () => put(entry, before),
        again: () => put(entry, parts),
      })
      notKept.value = without(notKept.value, at)
      forget(entry)
    } catch (error) {
      const problem = error as Error
      notKept.value = new Map(notKept.value).set(at, {
        kind,
        key,
        message: problem.message,
        at: error instanceof Refusal && typeof error.extra.at === 'string' ? error.extra.at : '',
        met: error instanceof Refusal && error.code === 'changed-meanwhile',
      })
    } finally {
      saving.value--
    }
  }

  /** What was saved is known without being read again. */
  function take(answer: SavedChanges, { kind, key, parts }: Pick<Typed, keyof ThingName | 'parts'>, was?: LookedThing) {
    const change = answer.changed.find(one => one.kind === kind && one.key === key)?.change
    if (change && was)
      remember([{ ...was, version: { id: change.id, revision: change.revision }, thing: { ...was.thing, ...parts } }])
  }

  /** What was saved is typed no longer, unless something was typed since. */
  function forget({ kind, key, parts }: Typed): void {
    const at = nameOf({ kind, key })
    const now = typed.value.get(at)
    if (!now) return
    const left = Object.fromEntries(Object.entries(now.parts).filter(([part, value]) => parts[part] !== value))
    typed.value = Object.keys(left).length
      ? new Map(typed.value).set(at, { ...now, parts: left, before: pick(parts, left) })
      : without(typed.value, at)
  }

  /** Parts put back, or put again. */
  async function put(name: ThingName, parts: Parts): Promise<void> {
    await read([name])
    const was = kept(name)
    const given = Object.fromEntries(Object.entries(parts).map(([part, value]) => [part, value ?? null]))
    take(
      await loft.act('PUT things/:kind/:key', { params: { kind: name.kind, key: name.key }, body: given }),
      { ...name, parts },
      was,
    )
  }

  /** Lets go of what was typed and not kept. */
  async function letGo(at: string): Promise<void> {
    clearTimeout(timers.get(at))
    timers.delete(at)
    typed.value = without(typed.value, at)
    notKept.value = without(notKept.value, at)
    await loft.load()
  }
  /** Keeps what was typed, over what somebody else wrote meanwhile. */
  async function keepOver(at: string): Promise<void> {
    const entry = typed.value.get(at)
    if (!entry) return
    await loft.load()
    await read([entry])
    await save(entry, true)
  }

  function step(one: Step): void {
    done.value = [...done.value, one].slice(-mostSteps)
    undone.value = []
  }
  /** Does something to the draft that can be taken back. */
  async function act<N extends DraftAction>(
    name: N,
    ask: LoftAsk<N>,
    way: { words: string; back(): Promise<unknown> },
  ): Promise<SavedChanges> {
    await loft.settled()
    const answer = await loft.act(name, ask)
    step({ words: way.words, back: way.back, again: () => loft.act(name, ask) })
    return answer
  }
  /** Takes the last step back; `again` does it anew. */
  async function undo(): Promise<string> {
    await loft.settled()
    const last = done.value.at(-1)
    if (!last) return ''
    await last.back()
    done.value = done.value.slice(0, -1)
    undone.value = [...undone.value, last]
    return last.words
  }
  async function redo(): Promise<string> {
    await loft.settled()
    const last = undone.value.at(-1)
    if (!last) return ''
    await last.again()
    undone.value = undone.value.slice(0, -1)
    done.value = [...done.value, last]
    return last.words
  }

  /** Sends everything typed, and waits until it is kept. */
  async function settled(): Promise<void> {
    while (timers.size || underWay.size) {
      for (const at of [...timers.keys()]) void flush(at)
      await Promise.allSettled([...underWay])
    }
  }
  loft.alsoSettles(settled, () => typed.value.size > 0)

  return {
    kept,
    looked,
    learn,
    read,
    reread,
    write,
    typed,
    notKept,
    letGo,
    keepOver,
    act,
    step,
    undo,
    redo,
    canUndo: computed(() => done.value.length > 0),
    canRedo: computed(() => undone.value.length > 0),
    saving,
    settled,
  }
})

function without<V>(map: ReadonlyMap<string, V>, key: string): Map<string, V> {
  const next = new Map(map)
  next.delete(key)
  return next
}
const pick = (from: Parts, keys: Parts): Parts => Object.fromEntries(Object.keys(keys).map(key => [key, from[key]]))
