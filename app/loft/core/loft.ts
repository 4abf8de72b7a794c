/** What the console knows and does: the site and its rules, live and in the draft, the board, and what is being changed. */
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { nameOf } from '~~/core/editions/contents'
import type { EntryKind } from '~~/core/rulebook/rulebook'
import { lexiconOf } from '~~/core/sentences/lexicon'
import type { SentVersion } from './route-answers'
import { makeBoard } from './board'
import { makeKnownSite } from './known-site'
import { loftApi } from './loft-api'
import { makeRights } from './rights'
import { makeSaver } from './saver'
import type { Trouble } from './saver'
import { threadsOf } from './threads'

const saveDelayMs = 350
/** An entry that is new comes last. */
const last = Number.MAX_SAFE_INTEGER
/** Threads of whoever is looked at as for a while. */
const lookShades = ['#6b5b3e', '#3f5a4d', '#5b4a66']

export const useLoft = defineStore('loft', () => {
  const known = makeKnownSite({ settled: () => saver.settled() })
  const saver = makeSaver(known)
  const rights = makeRights(known)
  const { data, base, saved, changes, failure, met } = known
  const view = ref<'live' | 'draft' | 'changes'>('draft')

  /** Entries that are typed, as the versions they are to be. */
  const typedEntries = computed(() =>
    [...saver.typed.value.values()].flatMap((one): SentVersion[] => {
      if (!('body' in one)) return []
      const { kind, key, body } = one
      const { position = last, id = 0, revision = 0 } = saved.value.get(kind, key) ?? {}
      return [{ kind, key, body, position, id, revision }]
    }),
  )
  const contents = computed(() => (typedEntries.value.length ? saved.value.with(typedEntries.value) : saved.value))
  const draft = computed(() => contents.value.book)
  const live = computed(() => base.value.book)
  /** All that stands on the site, by the draft. */
  const index = computed(() => contents.value.index)
  const site = computed(() => index.value.site)
  const { board, tiers, told, context, lookFirst } = makeBoard(known, contents, () => typedEntries.value)
  const lexicon = computed(() => lexiconOf(draft.value, index.value, met.value))
  const threads = computed(
    () =>
      new Map([
        ...threadsOf(draft.value.tiers ?? [], draft.value),
        ...context.value.looks.map(({ id }, i) => [id, lookShades[i % lookShades.length]!] as const),
      ]),
  )
  const book = computed(() => (view.value === 'live' ? live.value : draft.value))

  /** Changes an entry here at once and on the server shortly after. A body of null takes it out. */
  const change = (kind: EntryKind, key: string, body: unknown): void =>
    saver.write({ kind, key, body }, body === null ? 0 : saveDelayMs)

  /** Entries somebody else changed meanwhile: one after the other. Things are told of where they are written. */
  const conflict = computed(() => {
    const met = [...saver.troubles.value.values()].find(one => one.theirs !== undefined && 'body' in one.mine)
    return met ? { ...met, mine: (met.mine as { body: unknown }).body } : null
  })
  /** Settles a conflict: mine is saved over theirs, or theirs is taken. */
  async function settle(which: 'mine' | 'theirs'): Promise<void> {
    const met = conflict.value
    if (met) await (which === 'mine' ? saver.keepOver(nameOf(met)) : saver.letGo(nameOf(met)))
  }
  /** Why entries are not saved, by name. */
  const refused = computed<Record<string, string>>(() =>
    Object.fromEntries(
      [...saver.troubles.value].flatMap(([name, one]: [string, Trouble]) =>
        one.theirs === undefined && 'body' in one.mine ? [[name, one.message]] : [],
      ),
    ),
  )

  /** Publishes these changes, or all there are. */
  async function publish(note: string, chosen: readonly string[] | null = null): Promise<number> {
    await saver.settled()
    if (saver.hasUnsaved()) throw new Error('Not everything you typed is saved yet: see to that first.')
    const { edition: published } = await loftApi('POST publish', {
      body: { note, expects: known.edition.value, ...(chosen ? { chosen: [...chosen] } : {}) },
    })
    await known.load()
    return published
  }

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
    failure,
    ...rights,
    lexicon,
    threads,
    book,
    changes,
    meet: known.meet,
    edition: known.edition,
    visiting: known.visiting,
    visit: known.visit,
    goingTo: known.goingTo,
    load: known.load,
    change,
    settle,
    publish,
    typed: saver.typed,
    troubles: saver.troubles,
    saving: saver.saving,
    write: saver.write,
    act: saver.act,
    steps: saver.steps,
    entryStep: saver.entryStep,
    undo: saver.undo,
    takeBack: saver.takeBack,
    again: saver.again,
    canTakeBack: saver.canTakeBack,
    canDoAgain: saver.canDoAgain,
    drop: saver.letGo,
    keepOver: saver.keepOver,
    settled: saver.settled,
    onKept: saver.onKept,
    hasUnsaved: saver.hasUnsaved,
  }
})
