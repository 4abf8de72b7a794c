/** What the console knows: the site and its rules, live and in the draft, the board, and what is being changed. */
import { defineStore } from 'pinia'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { Contents, isEntryKind, nameOf } from '~~/core/editions/contents'
import type { Version } from '~~/core/editions/contents'
import type { VersionedThing } from '~~/core/kinds/kinds'
import type { EntryKind } from '~~/core/rulebook/rulebook'
import { lexiconOf } from '~~/core/sentences/lexicon'
import { emptySite } from '~~/core/site/site'
import { staffKindOfEntry } from '~~/core/staff/entry-kind'
import type { StaffAction, StaffKindId } from '~~/core/staff/staff-kinds'
import { mayStaff } from '~~/core/staff/staff-rule'
import type { OwnedThing, StaffAsk, StaffRights } from '~~/core/staff/staff-rule'
import { staffKindOfThing } from '~~/core/staff/thing-kind'
import type { SentVersion } from '~~/server/services/console/start'
import { askWorld } from '~/loft/core/worker/questions'
import type { BoardAnswer, BoardTold, Context } from '~/loft/core/worker/questions'
import { loftApi, loftText, Refusal } from './loft-api'
import type { DraftAction, DraftChange, LoftAsk, LoftStart, SavedChanges } from './loft-api'
import { useSeenAsRole, WithheldNotes } from './seen-as-role'
import type { Withheld } from './seen-as-role'
import { threadsOf } from './threads'
import { wakeCore } from './worker/ask-core'

/** Somebody else's version of an entry, met when saving ours. */
export interface Conflict {
  kind: EntryKind
  key: string
  mine: unknown
  theirs: { id: number; revision: number; body: unknown; changedBy: string } | null
  message: string
}
type Named = LoftStart['named']
/** As many persons and firms are remembered. */
const mostMet = 1000
interface Entry {
  kind: EntryKind
  key: string
  body: unknown
}

/** Whoever made a thing, where only the server knows who that is. */
const anybody = { isIn: () => true, holds: () => true }

const saveDelayMs = 350
/** So long the board waits for a page that is being looked at. */
const boardWaitsMs = 600
/** Once what is there now was drawn. */
const drawn = () => new Promise(resolve => requestAnimationFrame(() => setTimeout(resolve)))
const sleep = (ms: number) => new Promise(resolve => setTimeout(resolve, ms))
/** An entry that is new comes last. */
const last = Number.MAX_SAFE_INTEGER
/** Threads of whoever is looked at as for a while. */
const lookShades = ['#6b5b3e', '#3f5a4d', '#5b4a66']
const nothing = new Contents<SentVersion>([], emptySite)

export const useLoft = defineStore('loft', () => {
  const data = shallowRef<LoftStart | null>(null)
  /** The text it was read from. */
  let source: string | undefined
  /** What is live, and what the server's draft makes of it. */
  const base = shallowRef(nothing)
  const saved = shallowRef(nothing)
  const changes = shallowRef<DraftChange[]>([])
  /** What has not reached the server: laid over whatever it answers, so that no answer loses what was typed. */
  const unsaved = shallowRef<ReadonlyMap<string, Entry>>(new Map())
  const board = shallowRef<BoardAnswer | null>(null)
  /** Whom it is looked at as: known before the board is. */
  const tiers = shallowRef<BoardAnswer['tiers']>([])
  /** How often the core was told something: what it is asked for is asked anew. */
  const told = ref(0)
  const context = ref<Context>({ at: null, country: null, device: null, looks: [] })
  const view = ref<'live' | 'draft' | 'changes'>('draft')
  const conflicts = ref<Conflict[]>([])
  const conflict = computed(() => conflicts.value[0] ?? null)
  const refused = ref<Record<string, string>>({})
  const saving = ref(0)
  const failure = ref('')
  /** The edition that is looked at as it was, in place of now: nothing is changed there. */
  const visiting = ref<number | null>(null)
  /** The edition that was asked for last, or null for now, whether it is there yet or not. */
  let bound: number | null = null
  /** Persons and firms rules name, and those met on screens, so that sentences can name them. */
  const met = shallowRef<Named>({ people: [], firms: [] })
  /** What we say we were looking at, where that is not what the draft holds: somebody else's version, met in a conflict. */
  const looked = new Map<string, { id: number; revision: number } | null>()
  const timers = new Map<string, ReturnType<typeof setTimeout>>()
  let queue: Promise<unknown> = Promise.resolve()
  let reading: Promise<void> = Promise.resolve()
  let asked = 0
  /** How far the draft is known. */
  let draftVersion = 0

  const contents = computed(() =>
    unsaved.value.size
      ? saved.value.with(
          [...unsaved.value.values()].map((one): SentVersion => {
            const { position = last, id = 0, revision = 0 } = saved.value.get(one.kind, one.key) ?? {}
            return { ...one, position, id, revision }
          }),
        )
      : saved.value,
  )
  const draft = computed(() => contents.value.book)
  const live = computed(() => base.value.book)
  /** All that stands on the site, by the draft. */
  const index = computed(() => contents.value.index)
  const site = computed(() => index.value.site)

  const me = computed(() => data.value?.me)
  const rights = computed<StaffRights>(() => ({
    personId: data.value?.me.id ?? '',
    masterKey: data.value?.me.masterKey ?? false,
    rules: data.value?.me.rules ?? [],
  }))
  /** Looked at as a staff role, what is not offered is noted, so that it can be said which sentence it lacks. */
  const seenAs = useSeenAsRole()
  const withheld = new WithheldNotes()
  let notes: ((one: Withheld) => void) | null = one => withheld.note(one)
  const isAllowed = (ask: StaffAsk): boolean => {
    const { allowed } = mayStaff(rights.value, ask)
    if (!allowed && seenAs.role.value !== null && data.value)
      notes?.({ kind: ask.kind, action: ask.action, ...(ask.fields?.length ? { fields: ask.fields } : {}) })
    return allowed
  }
  /** What `work` asks for and is withheld; none of it counts as the screen's. */
  function withheldIn(work: () => unknown): Withheld[] {
    const before = notes
    const found: Withheld[] = []
    notes = one => void found.push(one)
    try {
      work()
    } finally {
      notes = before
    }
    return found
  }
  /** Whether the person may do this, to some thing at least: what is not allowed is not offered. */
  const may = (kind: StaffKindId, action: StaffAction, fields?: string[]) =>
    (action === 'look' || visiting.value === null) && isAllowed({ kind, action, ...(fields ? { fields } : {}) })
  /**
   * The same for one thing. Who made it only the server knows: where that decides, it is offered, and the server
   * answers.
   */
  const mayThing = (kind: StaffKindId, action: StaffAction, thing: OwnedThing, fields?: string[]) =>
    (action === 'look' || visiting.value === null) &&
    isAllowed({ kind, action, thing, maker: anybody, ...(fields ? { fields } : {}) })
  /** The same for one entry of the rules. */
  const mayEntry = (kind: EntryKind, action: StaffAction) =>
    may(
      staffKindOfEntry[kind],
      staffKindOfEntry[kind].startsWith('settings-') && (action === 'add' || action === 'withdraw') ? 'change' : action,
    )
  /** Whether a change of the draft may be published, undone or otherwise acted on, to some of its kind at least. */
  const mayChange = ({ kind, before, after }: DraftChange, action: StaffAction) =>
    isEntryKind(kind)
      ? mayEntry(kind, action)
      : may(staffKindOfThing(kind as VersionedThing, (after ?? before) as Record<string, unknown>), action)
  const lexicon = computed(() => lexiconOf(draft.value, index.value, met.value))
  const threads = computed(
    () =>
      new Map([
        ...threadsOf(draft.value.tiers ?? [], draft.value),
        ...context.value.looks.map(({ id }, i) => [id, lookShades[i % lookShades.length]!] as const),
      ]),
  )
  const book = computed(() => (view.value === 'live' ? live.value : draft.value))
  const edition = computed(() => data.value?.edition ?? 0)

  function meet(more: Partial<Named> = {}): void {
    const together = (known: Named['people'], fresh: Named['people'] = []) => {
      const names = new Map(known.map(one => [one.id, one.name]))
      if (fresh.every(one => names.get(one.id) === one.name)) return known
      for (const { id, name } of fresh) names.set(id, name)
      return [...names].map(([id, name]) => ({ id, name })).slice(-mostMet)
    }
    const [people, firms] = [together(met.value.people, more.people), together(met.value.firms, more.firms)]
    if (people !== met.value.people || firms !== met.value.firms) met.value = { people, firms }
  }

  /** Reads everything anew. What is still being typed or saved stays as it is here. */
  function load(): Promise<void> {
    bound = null
    return (reading = read(++asked))
  }

  async function read(turn: number, triesLeft = 3): Promise<void> {
    try {
      wakeCore()
      const role = seenAs.role.value
      const text = (await loftText('GET start', role === null ? {} : { query: { role } })) ?? '{}'
      const fresh = JSON.parse(text) as LoftStart
      // A slow answer to an earlier question must not undo a later one, whose answer is the newer.
      if (turn !== asked) return reading
      // Nor an answer that was on its way when something was saved: what was saved is not in it.
      if (fresh.draftVersion < draftVersion && triesLeft > 0) return read(turn, triesLeft - 1)
      draftVersion = fresh.draftVersion
      for (const name of looked.keys()) if (!unsaved.value.has(name)) looked.delete(name)
      base.value = new Contents(fresh.versions, fresh.frame)
      changes.value = fresh.changes
      lookAtEdition(null)
      saved.value = base.value.with(fresh.changes.map(versionOf))
      source = text
      data.value = fresh
      meet(fresh.named)
      failure.value = ''
    } catch (error) {
      failure.value = (error as Error).message
    }
  }

  /** The board of one edition is never shown as another's: until its own is there, there is none. */
  function lookAtEdition(number: number | null): void {
    if (visiting.value !== number) board.value = null
    visiting.value = number
  }

  /** Looks at an earlier edition as it was. `load` comes back to now. */
  async function visit(number: number): Promise<void> {
    // It is there, or on its way.
    if (bound === number) return
    bound = number
    await settled()
    const { versions } = await loftApi('GET editions/:number', { params: { number } })
    // Whoever has gone on meanwhile does not come back to it.
    if (bound !== number) return
    // Answers still on their way are of now.
    asked++
    reading = Promise.resolve()
    base.value = saved.value = new Contents(versions, data.value!.frame)
    changes.value = []
    lookAtEdition(number)
    source = undefined
    data.value = { ...data.value!, versions }
  }

  /** Takes in what a save changed: nothing else is read again. */
  function take(answer: SavedChanges | undefined): void {
    if (!answer) return
    draftVersion = Math.max(draftVersion, answer.draftVersion)
    const names = new Set(answer.changed.map(nameOf))
    const fresh = answer.changed.flatMap(({ change }) => change ?? [])
    changes.value = [...changes.value.filter(one => !names.has(nameOf(one))), ...fresh]
    saved.value = saved.value.with(
      answer.changed.map(({ kind, key, change }): SentVersion => {
        if (change) return versionOf(change)
        return base.value.get(kind, key) ?? { kind, key, position: 0, body: null, id: 0, revision: 0 }
      }),
    )
  }

  /** What is looked at before the board: a page is there sooner than who reaches all of them. */
  const looks = new Set<Promise<unknown>>()
  function lookFirst(look: Promise<unknown>): void {
    if (board.value) return
    looks.add(look)
    void look.finally(() => looks.delete(look))
  }

  /** Tells the core in its worker what moved: all of what is live once, afterwards only the draft. */
  let known: { base: Contents<SentVersion>; context: string } | undefined
  let toldDraft: ReadonlyMap<string, Version> = new Map()
  /** How many worlds the core was told: what it says of an earlier one comes too late. */
  let worlds = 0
  async function reckon(): Promise<void> {
    if (!data.value) return
    const now = { base: base.value, context: JSON.stringify(context.value) }
    const isKnown = known?.base === now.base && known.context === now.context
    known = now
    const draftVersions: Version[] = [
      ...changes.value.map(versionOf),
      ...[...unsaved.value.values()].map(one => contents.value.get(one.kind, one.key) ?? { ...one, position: 0 }),
    ]
    const before = isKnown ? toldDraft : new Map<string, Version>()
    toldDraft = new Map(draftVersions.map(one => [nameOf(one), one]))
    try {
      if (isKnown) {
        const put = [...toldDraft.values()].filter(one => !isAlike(one, before.get(nameOf(one))))
        const drop = [...before.values()].filter(one => !toldDraft.has(nameOf(one)))
        const here = worlds
        const moved = await askWorld('draft', { put, drop: drop.map(({ kind, key }) => ({ kind, key })) })
        if (here !== worlds) return
        takeBoard(moved)
        told.value++
        return
      }
      const live = { frame: now.base.frame, versions: data.value.versions }
      const world = { ...(source ? {} : { live }), draft: draftVersions, context: context.value }
      const here = ++worlds
      const answer = await askWorld('world', world, source)
      if (here !== worlds) return
      tiers.value = answer.tiers
      told.value++
      await nextTick()
      if (looks.size) await Promise.race([Promise.allSettled([...looks]).then(drawn), sleep(boardWaitsMs)])
      if (here !== worlds) return
      const answered = await askWorld('board')
      if (here === worlds) takeBoard(answered)
    } catch (error) {
      // Whatever it knows now, it is told everything the next time.
      known = undefined
      throw error
    }
  }

  function takeBoard({ things, live: cells, draft: moved, shares, ...rest }: BoardTold): void {
    const before = board.value
    // It leaves out what it told before, which is not here: it is told everything once more.
    if (!before && !(things && cells && moved.weaves && shares.live)) {
      known = undefined
      return void reckon()
    }
    tiers.value = rest.tiers
    board.value = {
      ...rest,
      things: things ?? before!.things,
      live: cells ?? before!.live,
      draft: { ...moved, weaves: moved.weaves ?? before!.draft.weaves },
      shares: { ...shares, live: shares.live ?? before!.shares.live },
    }
  }
  watch([contents, data, () => ({ ...context.value })], reckon)

  /** Changes an entry here at once and on the server shortly after. A body of null takes it out. */
  function change(kind: EntryKind, key: string, body: unknown): void {
    const name = `${kind} ${key}`
    unsaved.value = new Map(unsaved.value).set(name, { kind, key, body })
    refused.value = without(refused.value, name)
    clearTimeout(timers.get(name))
    timers.set(
      name,
      setTimeout(() => flush(name), body === null ? 0 : saveDelayMs),
    )
  }

  /** One call after the other, in the order things were done. */
  function inTurn<T>(work: () => Promise<T>): Promise<T> {
    const result = queue.then(work)
    queue = result.catch(() => undefined)
    return result
  }

  function flush(name: string): Promise<void> {
    clearTimeout(timers.get(name))
    timers.delete(name)
    return inTurn(() => save(name))
  }

  /** What we were looking at when we changed it. */
  const expected = ({ kind, key }: { kind: EntryKind; key: string }) => {
    const name = `${kind} ${key}`
    const known = saved.value.get(kind, key)
    return looked.has(name) ? looked.get(name)! : known ? { id: known.id, revision: known.revision } : null
  }

  function forgetUnsaved(name: string): void {
    unsaved.value = new Map([...unsaved.value].filter(([one]) => one !== name))
    looked.delete(name)
  }

  async function save(name: string): Promise<void> {
    const entry = unsaved.value.get(name)
    // Undone meanwhile, or about to be saved with what was typed since.
    if (!entry || timers.has(name)) return
    const { kind, key, body } = entry
    const expects = expected(entry)
    const params = { kind, key }
    saving.value++
    try {
      const answer =
        body === null
          ? await loftApi('DELETE entries/:kind/:key', { params, body: { expects } })
          : await loftApi('PUT entries/:kind/:key', { params, body: { body, expects } })
      looked.delete(name)
      take(answer)
      if (unsaved.value.get(name) === entry) forgetUnsaved(name)
    } catch (error) {
      await notSaved(error, entry)
    } finally {
      saving.value--
    }
  }

  async function notSaved(error: unknown, { kind, key, body }: Entry): Promise<void> {
    const name = `${kind} ${key}`
    if (error instanceof Refusal && error.code === 'changed-meanwhile') {
      const met = { kind, key, mine: body, theirs: error.extra.current as Conflict['theirs'], message: error.message }
      conflicts.value = [...conflicts.value.filter(one => `${one.kind} ${one.key}` !== name), met]
      return
    }
    refused.value = { ...refused.value, [name]: (error as Error).message }
    // What was taken out but may not go is put back; what was typed stays, marked as not saved.
    if (body === null) forgetUnsaved(name)
  }

  /** Settles a conflict: mine is saved over theirs, or theirs is taken. */
  async function settle(which: 'mine' | 'theirs'): Promise<void> {
    const met = conflict.value
    if (!met) return
    const name = `${met.kind} ${met.key}`
    conflicts.value = conflicts.value.slice(1)
    if (which === 'theirs') return drop(name)
    looked.set(name, met.theirs && { id: met.theirs.id, revision: met.theirs.revision })
    await flush(name)
  }

  /** Lets go of what was typed and not saved: the entry is again as the server has it. */
  async function drop(name: string): Promise<void> {
    forget(name)
    await load()
  }

  function forget(name: string): void {
    clearTimeout(timers.get(name))
    timers.delete(name)
    forgetUnsaved(name)
    refused.value = without(refused.value, name)
    conflicts.value = conflicts.value.filter(one => `${one.kind} ${one.key}` !== name)
  }

  /** It is again as it is live. A save of it that is under way ends first, or it would come after. */
  function undo(kind: Version['kind'], key: string): Promise<void> {
    forget(`${kind} ${key}`)
    return inTurn(async () =>
      take(
        await loftApi(isEntryKind(kind) ? 'POST entries/:kind/:key/undo' : 'POST things/:kind/:key/undo', {
          params: { kind, key },
        }),
      ),
    )
  }

  /** A change of a thing: saved at once, in its turn. Throws what the server refuses. */
  function act<N extends DraftAction>(name: N, asked: LoftAsk<N>): Promise<SavedChanges> {
    return inTurn(async () => {
      const answer = (await loftApi<DraftAction>(name, asked as never)) as SavedChanges
      take(answer)
      return answer
    })
  }

  /** Publishes these changes, or all there are. */
  async function publish(note: string, chosen: readonly string[] | null = null): Promise<number> {
    await settled()
    if (hasUnsaved()) throw new Error('Not everything you typed is saved yet: see to that first.')
    const { edition: published } = await loftApi('POST publish', {
      body: { note, expects: edition.value, ...(chosen ? { chosen: [...chosen] } : {}) },
    })
    await load()
    return published
  }

  /** Others that keep what is typed for a while: what sends it, and whether there is any. */
  const settling: { settle(): Promise<void>; unsaved(): boolean }[] = []
  const alsoSettles = (settle: () => Promise<void>, unsaved: () => boolean) => void settling.push({ settle, unsaved })
  /** Sends everything typed and waits until it has reached the server. */
  async function settled(): Promise<void> {
    for (const name of [...timers.keys()]) flush(name)
    await Promise.all(settling.map(one => one.settle()))
    await queue
  }
  const hasUnsaved = () => unsaved.value.size > 0 || settling.some(one => one.unsaved())

  return {
    data,
    live,
    draft,
    base,
    contents,
    index,
    site,
    board,
    tiers,
    told,
    lookFirst,
    context,
    view,
    conflict,
    refused,
    saving,
    failure,
    me,
    rights,
    may,
    mayThing,
    mayEntry,
    mayChange,
    withheld: withheld.list,
    forgetWithheld: () => withheld.forget(),
    withheldIn,
    meet,
    lexicon,
    threads,
    book,
    changes,
    edition,
    hasUnsaved,
    visiting,
    visit,
    /** The edition that is looked at, or is on its way to be; null for now. */ goingTo: () => bound,
    load,
    change,
    act,
    settle,
    drop,
    undo,
    publish,
    settled,
    alsoSettles,
  }
})

/** Bodies are never changed in place: the same one says the same. */
const isAlike = (one: Version, other: Version | undefined) =>
  other !== undefined && one.body === other.body && one.position === other.position

const versionOf = ({ kind, key, position, after, id, revision }: DraftChange): SentVersion => ({
  kind,
  key,
  position,
  body: after,
  id,
  revision,
})

function without(record: Record<string, string>, key: string): Record<string, string> {
  return Object.fromEntries(Object.entries(record).filter(([name]) => name !== key))
}
