/**
 * The one way of the console to write the draft. What is written by hand is typed, waits for a pause, is sent, and is
 * then kept, or is in trouble: refused, or met by what somebody else wrote. What is done is sent at once. One call follows
 * the other, in the order things were done; and all that was kept can be taken back, the last first, in whatever room.
 *
 * | is        | and then                     | becomes                             |
 * |-----------|------------------------------|-------------------------------------|
 * | typed     | typed again                  | typed: it waits anew                |
 * | typed     | paused, or all is to be kept | sent                                |
 * | sent      | typed again                  | sent; what was typed follows it     |
 * | sent      | kept                         | known; it can be taken back         |
 * | sent      | refused                      | in trouble; it stays as it is typed |
 * | sent      | changed by others meanwhile  | in trouble; both are shown          |
 * | in trouble| typed again                  | typed                               |
 * | in trouble| mine is chosen               | sent, over what others wrote        |
 * | in trouble| theirs is chosen, or let go  | known, as the server has it         |
 */
import { computed, ref, shallowRef } from 'vue'
import { isEntryKind, nameOf } from '~~/core/editions/contents'
import type { VersionedKind } from '~~/core/editions/contents'
import type { VersionedThing } from '~~/core/kinds/kinds'
import type { EntryKind } from '~~/core/rulebook/rulebook'
import { changedWords } from './changed-words'
import type { KnownSite } from './known-site'
import { loftApi, Refusal } from './loft-api'
import type { DraftAction, DraftStep, LoftAsk, SavedChanges } from './loft-api'

type Expects = { id: number; revision: number } | null
type Parts = Record<string, unknown>
interface Name {
  kind: VersionedKind
  key: string
}
/** What is written by hand: an entry of the rules whole, a thing by its parts. */
export type Written =
  { kind: EntryKind; key: string; body: unknown } | { kind: VersionedThing; key: string; parts: Parts }
/** With what was there when it was begun: over nothing else it is written. */
type Typed = Written & { expects: Expects }

/** Why something written was not kept. */
export interface Trouble extends Name {
  message: string
  /** The part the server points at. */
  at: string
  /** What somebody else made of it meanwhile; null took it away. Left out where nobody did. */
  theirs?: { id: number; revision: number; body: unknown; changedBy: string } | null
  /** What was written. */
  mine: Written
}
/** Something kept, by the number the server takes it back by. */
interface Step {
  step: number
  words: string
}
const mostSteps = 200

export function makeSaver({ saved, take, load, visiting }: Pick<KnownSite, 'saved' | 'take' | 'load' | 'visiting'>) {
  /** What has not reached the server: laid over whatever it answers, so that no answer loses what was typed. */
  const typed = shallowRef<ReadonlyMap<string, Typed>>(new Map())
  const troubles = shallowRef<ReadonlyMap<string, Trouble>>(new Map())
  const saving = ref(0)
  const done = shallowRef<Step[]>([])
  const undone = shallowRef<Step[]>([])
  const timers = new Map<string, ReturnType<typeof setTimeout>>()
  let queue: Promise<unknown> = Promise.resolve()

  const versionNow = ({ kind, key }: Name): Expects => {
    const known = saved.value.get(kind, key)
    return known ? { id: known.id, revision: known.revision } : null
  }

  /** One call after the other, in the order things were done. */
  function inTurn<T>(work: () => Promise<T>): Promise<T> {
    saving.value++
    const result = queue.then(work).finally(() => saving.value--)
    queue = result.catch(() => undefined)
    return result
  }

  /** Writes something here at once, and on the server after a pause. */
  function write(one: Written, delayMs: number): void {
    const name = nameOf(one)
    const before = typed.value.get(name)
    const expects = before ? before.expects : versionNow(one)
    const now: Typed =
      'parts' in one && before && 'parts' in before
        ? { ...one, expects, parts: { ...before.parts, ...one.parts } }
        : { ...one, expects }
    typed.value = new Map(typed.value).set(name, now)
    troubles.value = without(troubles.value, name)
    clearTimeout(timers.get(name))
    timers.set(
      name,
      setTimeout(() => flush(name), delayMs),
    )
  }

  function flush(name: string): Promise<void> {
    clearTimeout(timers.get(name))
    timers.delete(name)
    return inTurn(() => send(name))
  }

  async function send(name: string): Promise<void> {
    const one = typed.value.get(name)
    // Taken back meanwhile, or about to be sent with what was typed since.
    if (!one || timers.has(name)) return
    try {
      keep(await put(one), undefined, one)
      known(name, one)
    } catch (error) {
      notKept(error, one)
    }
  }

  function put(one: Typed): Promise<SavedChanges> {
    const { kind, key, expects } = one
    if ('parts' in one) {
      const given = Object.fromEntries(Object.entries(one.parts).map(([part, value]) => [part, value ?? null]))
      return loftApi('PUT things/:kind/:key', {
        params: { kind, key },
        body: { ...given, ...(expects ? { expects } : {}) },
      })
    }
    const params = { kind, key }
    return one.body === null
      ? loftApi('DELETE entries/:kind/:key', { params, body: { expects } })
      : loftApi('PUT entries/:kind/:key', { params, body: { body: one.body, expects } })
  }

  /** What was sent is typed no longer, unless something was typed since: that is over what was just kept. */
  function known(name: string, sent: Typed): void {
    const now = typed.value.get(name)
    if (!now) return
    const expects = versionNow(now)
    if ('parts' in now && 'parts' in sent) {
      const left = Object.fromEntries(Object.entries(now.parts).filter(([part, value]) => sent.parts[part] !== value))
      typed.value = Object.keys(left).length
        ? new Map(typed.value).set(name, { ...now, parts: left, expects })
        : without(typed.value, name)
      return
    }
    typed.value = now === sent ? without(typed.value, name) : new Map(typed.value).set(name, { ...now, expects })
  }

  function notKept(error: unknown, one: Typed): void {
    const { expects: _, ...mine } = one
    const { message, code, extra } =
      error instanceof Refusal ? error : { message: (error as Error).message, code: '', extra: {} as Refusal['extra'] }
    const met = code === 'changed-meanwhile'
    const trouble: Trouble = {
      kind: one.kind,
      key: one.key,
      message,
      at: typeof extra.at === 'string' ? extra.at : '',
      ...(met ? { theirs: (extra.current ?? null) as Trouble['theirs'] & object } : {}),
      mine,
    }
    troubles.value = new Map(troubles.value).set(nameOf(one), trouble)
    // What was taken out but may not go is put back; what was typed stays, marked as not kept.
    if (!met && 'body' in one && one.body === null) typed.value = without(typed.value, nameOf(one))
  }

  /** Who hears of what was kept, with what was written of it where that was by hand. */
  const heard: ((answer: SavedChanges, written?: Written) => void)[] = []
  const onKept = (hear: (typeof heard)[number]) => void heard.push(hear)
  function takeIn(answer: SavedChanges, written?: Written): void {
    take(answer)
    for (const hear of heard) hear(answer, written)
  }

  /** Takes in what a change answers. What it did can be taken back from then on. */
  function keep(answer: SavedChanges, words?: string, written?: Written): SavedChanges {
    takeIn(answer, written)
    if (answer.step !== null) {
      done.value = [
        ...done.value,
        { step: answer.step, words: words ?? changedWords(answer, (kind, key) => saved.value.get(kind, key)?.body) },
      ].slice(-mostSteps)
      undone.value = []
    }
    return answer
  }

  /** Sends everything typed; whoever does something next does it after that. */
  function flushAll(): void {
    for (const name of [...timers.keys()]) void flush(name)
  }

  /** Does something to the draft at once, in its turn. Throws what the server refuses. `words`: what is done, for whoever takes it back. */
  function act<N extends DraftAction>(name: N, asked: LoftAsk<N>, words?: string): Promise<SavedChanges> {
    flushAll()
    return inTurn(async () => keep((await loftApi<DraftAction>(name, asked as never)) as SavedChanges, words))
  }
  /** Several steps as one change: all of them, or none. They are made when it is their turn, of what is known then. */
  function steps(made: () => DraftStep[], words: string): Promise<SavedChanges> {
    flushAll()
    return inTurn(async () => keep(await loftApi('POST draft/steps', { body: { steps: made() } }), words))
  }
  /** An entry put, or with a body of null taken out, as one step among others. */
  const entryStep = (entry: EntryKind, key: string, body: unknown): DraftStep => ({
    do: 'put',
    entry,
    key,
    body,
    expects: versionNow({ kind: entry, key }),
  })

  /** It is again as it is live. */
  function undo(kind: VersionedKind, key: string): Promise<SavedChanges> {
    forget(nameOf({ kind, key }))
    const params = { kind, key }
    return act(isEntryKind(kind) ? 'POST entries/:kind/:key/undo' : 'POST things/:kind/:key/undo', { params })
  }

  /** Takes the last step back that was kept, and answers what it was; nothing where there is none. */
  const takeBack = () => back(done, undone)
  /** Does anew what was taken back last. */
  const again = () => back(undone, done)
  async function back(from: typeof done, to: typeof done): Promise<string> {
    if (visiting.value !== null) return ''
    flushAll()
    return inTurn(async () => {
      const last = from.value.at(-1)
      if (!last) return ''
      try {
        const answer = await loftApi('POST draft/steps/:id/back', { params: { id: last.step } })
        takeIn(answer)
        if (answer.step !== null) to.value = [...to.value, { step: answer.step, words: last.words }].slice(-mostSteps)
      } catch (error) {
        // What cannot be taken back now keeps nobody from taking back what was done before.
        if (error instanceof Refusal && error.code !== 'offline') from.value = from.value.slice(0, -1)
        if (error instanceof Refusal && error.code === 'changed-meanwhile') await load()
        throw error
      }
      from.value = from.value.slice(0, -1)
      return last.words
    })
  }

  function forget(name: string): void {
    clearTimeout(timers.get(name))
    timers.delete(name)
    typed.value = without(typed.value, name)
    troubles.value = without(troubles.value, name)
  }
  /** Lets go of what was typed and not kept: it is again as the server has it. */
  async function letGo(name: string): Promise<void> {
    forget(name)
    await load()
  }
  /** Keeps what was typed, over what somebody else wrote meanwhile and was shown. */
  async function keepOver(name: string): Promise<void> {
    const { theirs } = troubles.value.get(name) ?? {}
    const one = typed.value.get(name)
    if (!one) return
    const expects = theirs ? { id: theirs.id, revision: theirs.revision } : null
    typed.value = new Map(typed.value).set(name, { ...one, expects })
    troubles.value = without(troubles.value, name)
    await load()
    await flush(name)
  }

  /** Sends everything typed and waits until it has reached the server. */
  async function settled(): Promise<void> {
    while (timers.size) flushAll()
    let last
    do await (last = queue)
    while (last !== queue)
  }

  return {
    typed,
    troubles,
    saving,
    write,
    act,
    steps,
    entryStep,
    undo,
    takeBack,
    again,
    canTakeBack: computed(() => done.value.length > 0),
    canDoAgain: computed(() => undone.value.length > 0),
    letGo,
    keepOver,
    settled,
    onKept,
    hasUnsaved: () => typed.value.size > 0,
  }
}

function without<V>(map: ReadonlyMap<string, V>, key: string): ReadonlyMap<string, V> {
  if (!map.has(key)) return map
  const next = new Map(map)
  next.delete(key)
  return next
}
