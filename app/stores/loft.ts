/** What the console knows: the site, live and draft rules, the board, and what is being changed. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { lexiconOf } from '~~/core/sentences/lexicon'
import { entriesOf, rulebookOf } from '~~/core/rulebook/rulebook'
import type { EntryKind, Rulebook, RuleEntry } from '~~/core/rulebook/rulebook'
import type { BoardData } from '~~/server/services/rules/board'
import type { BoardAnswer, Context } from '~/workers/core-messages'
import { mayStaff } from '~~/core/staff/staff-rule'
import type { OwnedThing, StaffRights } from '~~/core/staff/staff-rule'
import type { StaffAction, StaffKindId } from '~~/core/staff/staff-kinds'
import { staffKindOfEntry } from '~~/core/staff/entry-kind'

/** Somebody else's version of an entry, met when saving ours. */
export interface Conflict {
  kind: EntryKind
  key: string
  mine: unknown
  theirs: { id: number; revision: number; body: unknown; changedBy: string } | null
  message: string
}
interface Version {
  id: number
  revision: number
}

const saveDelayMs = 350

export const useLoft = defineStore('loft', () => {
  const data = shallowRef<BoardData | null>(null)
  const draft = shallowRef<Rulebook>({ bravik: 'rulebook/1' })
  const board = shallowRef<BoardAnswer | null>(null)
  const context = ref<Context>({ at: null, country: null, device: null })
  const view = ref<'live' | 'draft' | 'changes'>('draft')
  const conflicts = ref<Conflict[]>([])
  const conflict = computed(() => conflicts.value[0] ?? null)
  const refused = ref<Record<string, string>>({})
  const saving = ref(0)
  const failure = ref('')
  /** People met on screens, so that sentences can name them. */
  const people = ref<{ id: string; name: string }[]>([])
  const versions = new Map<string, Version>()
  /** What has not reached the server: laid over whatever it answers, so that no answer loses what was typed. */
  const unsaved = new Map<string, RuleEntry>()
  const timers = new Map<string, ReturnType<typeof setTimeout>>()
  let queue: Promise<unknown> = Promise.resolve()
  let reading: Promise<void> = Promise.resolve()
  let asked = 0

  const me = computed(() => data.value?.me)
  const rights = computed<StaffRights>(() => ({
    personId: data.value?.me.id ?? '',
    masterKey: data.value?.me.masterKey ?? false,
    rules: data.value?.me.rules ?? [],
  }))
  /** Whether the person may do this, to some thing at least: what is not allowed is not offered. */
  const may = (kind: StaffKindId, action: StaffAction, fields?: string[]) =>
    mayStaff(rights.value, { kind, action, ...(fields ? { fields } : {}) }).allowed
  /** The same for one thing. Who is in an audience only the server knows: where that decides, it is offered, and the server answers. */
  const mayThing = (kind: StaffKindId, action: StaffAction, thing: OwnedThing, fields?: string[]) =>
    mayStaff(rights.value, { kind, action, thing, makerIn: () => true, ...(fields ? { fields } : {}) }).allowed
  /** The same for one entry of the rules. */
  const mayEntry = (kind: EntryKind, action: StaffAction) =>
    may(staffKindOfEntry[kind], staffKindOfEntry[kind].startsWith('settings-') && action !== 'look' ? 'change' : action)
  const lexicon = computed(() =>
    lexiconOf(draft.value, data.value?.site ?? { timezone: 'UTC', currency: 'EUR' }, {
      firms: data.value?.firms ?? [],
      people: people.value,
    }),
  )
  const threads = computed(() => threadsOf(draft.value.tiers ?? [], draft.value))
  const book = computed(() => (view.value === 'live' ? (data.value?.live ?? draft.value) : draft.value))
  const changes = computed(() => data.value?.changes ?? [])
  const edition = computed(() => data.value?.edition ?? 0)

  function meet(met: { id: string; name: string }[]): void {
    const known = new Map(people.value.map(one => [one.id, one]))
    for (const { id, name } of met) known.set(id, { id, name })
    if (known.size !== people.value.length) people.value = [...known.values()].slice(-500)
  }

  /** Reads everything anew. What is still being typed or saved stays as it is here. */
  function load(): Promise<void> {
    return (reading = read(++asked))
  }

  async function read(turn: number): Promise<void> {
    try {
      const fresh = await loftApi<BoardData>('board')
      // A slow answer to an earlier question must not undo a later one, whose answer is the newer.
      if (turn !== asked) return reading
      for (const name of versions.keys()) if (!unsaved.has(name)) versions.delete(name)
      for (const [name, version] of Object.entries(fresh.versions)) if (!unsaved.has(name)) versions.set(name, version)
      data.value = fresh
      draft.value = [...unsaved.values()].reduce(withEntry, fresh.draft)
      failure.value = ''
    } catch (error) {
      failure.value = (error as Error).message
    }
  }

  async function reckon(): Promise<void> {
    if (!data.value) return
    const answer = await askCore({
      kind: 'world',
      world: { site: data.value.site, live: data.value.live, draft: draft.value, context: context.value },
    })
    board.value = answer
  }
  watch([draft, data, () => ({ ...context.value })], reckon)

  /** Changes an entry here at once and on the server shortly after. A body of null takes it out. */
  function change(kind: EntryKind, key: string, body: unknown): void {
    const name = `${kind} ${key}`
    const entry = { kind, key, body }
    unsaved.set(name, entry)
    draft.value = withEntry(draft.value, entry)
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

  async function save(name: string): Promise<void> {
    const entry = unsaved.get(name)
    // Undone meanwhile, or about to be saved with what was typed since.
    if (!entry || timers.has(name)) return
    const { kind, key, body } = entry
    const expects = versions.get(name) ?? null
    saving.value++
    try {
      if (body === null) {
        await loftApi(`entries/${kind}/${encodeURIComponent(key)}`, 'DELETE', { expects })
        versions.delete(name)
      } else {
        const { version } = await loftApi<{ version: Version | null }>(
          `entries/${kind}/${encodeURIComponent(key)}`,
          'PUT',
          { body, expects },
        )
        if (version) versions.set(name, version)
      }
      if (unsaved.get(name) === entry) unsaved.delete(name)
      await load()
    } catch (error) {
      await notSaved(error, entry)
    } finally {
      saving.value--
    }
  }

  async function notSaved(error: unknown, { kind, key, body }: RuleEntry): Promise<void> {
    const name = `${kind} ${key}`
    if (error instanceof Refusal && error.code === 'changed-meanwhile') {
      const met = { kind, key, mine: body, theirs: error.extra.current as Conflict['theirs'], message: error.message }
      conflicts.value = [...conflicts.value.filter(one => `${one.kind} ${one.key}` !== name), met]
      return
    }
    refused.value = { ...refused.value, [name]: (error as Error).message }
    // What was taken out but may not go is put back; what was typed stays, marked as not saved.
    if (body !== null) return
    unsaved.delete(name)
    await load()
  }

  /** Settles a conflict: mine is saved over theirs, or theirs is taken. */
  async function settle(which: 'mine' | 'theirs'): Promise<void> {
    const met = conflict.value
    if (!met) return
    const name = `${met.kind} ${met.key}`
    conflicts.value = conflicts.value.slice(1)
    if (which === 'theirs') return drop(name)
    if (met.theirs) versions.set(name, { id: met.theirs.id, revision: met.theirs.revision })
    else versions.delete(name)
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
    unsaved.delete(name)
    refused.value = without(refused.value, name)
    conflicts.value = conflicts.value.filter(one => `${one.kind} ${one.key}` !== name)
  }

  /** The entry is again as it is live. A save of it that is under way ends first, or it would come after. */
  function undo(kind: EntryKind, key: string): Promise<void> {
    forget(`${kind} ${key}`)
    return inTurn(async () => {
      await loftApi(`entries/${kind}/${encodeURIComponent(key)}/undo`, 'POST', {})
      await load()
    })
  }

  async function publish(note: string): Promise<number> {
    await settled()
    if (unsaved.size) throw new Error('Not everything you typed is saved yet: see to that first.')
    const { edition: published } = await loftApi<{ edition: number }>('publish', 'POST', {
      note,
      expects: edition.value,
    })
    await load()
    return published
  }

  /** Sends everything typed and waits until it has reached the server. */
  async function settled(): Promise<void> {
    for (const name of [...timers.keys()]) flush(name)
    await queue
  }
  const hasUnsaved = () => unsaved.size > 0

  return {
    data,
    draft,
    board,
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
    meet,
    lexicon,
    threads,
    book,
    changes,
    edition,
    hasUnsaved,
    load,
    change,
    settle,
    drop,
    undo,
    publish,
    settled,
  }
})

function withEntry(book: Rulebook, entry: RuleEntry): Rulebook {
  const entries = entriesOf(book)
  const at = entries.findIndex(one => one.kind === entry.kind && one.key === entry.key)
  if (at < 0) entries.push(entry)
  else entries[at] = entry
  return rulebookOf(entries.filter(one => one.body !== null))
}

function without(record: Record<string, string>, key: string): Record<string, string> {
  return Object.fromEntries(Object.entries(record).filter(([name]) => name !== key))
}
