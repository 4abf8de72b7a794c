/** Who reaches what, as the core in its worker works it out: told what moved, it answers the boards. */
import { nextTick, ref, shallowRef, watch } from 'vue'
import type { ComputedRef } from 'vue'
import { nameOf } from '~~/core/editions/contents'
import type { Contents, Version } from '~~/core/editions/contents'
import type { SentVersion } from './route-answers'
import { versionOf } from './known-site'
import type { KnownSite } from './known-site'
import { askWorld } from './worker/questions'
import type { BoardAnswer, BoardTold, Context } from './worker/questions'

/** So long the board waits for a page that is being looked at. */
const boardWaitsMs = 600
/** Once what is there now was drawn. */
const drawn = () => new Promise(resolve => requestAnimationFrame(() => setTimeout(resolve)))
const sleep = (ms: number) => new Promise(resolve => setTimeout(resolve, ms))

/** `contents`: the draft with what is typed; `typed`: names of what is, by the versions that stand for it. */
export function makeBoard(
  { data, base, changes, visiting, source }: KnownSite,
  contents: ComputedRef<Contents<SentVersion>>,
  typed: () => readonly Version[],
) {
  const board = shallowRef<BoardAnswer | null>(null)
  /** Whom it is looked at as: known before the board is. */
  const tiers = shallowRef<BoardAnswer['tiers']>([])
  /** How often the core was told something: what it is asked for is asked anew. */
  const told = ref(0)
  const context = ref<Context>({ at: null, country: null, device: null, looks: [] })
  /** The board of one edition is never shown as another's: until its own is there, there is none. */
  watch(visiting, () => (board.value = null), { flush: 'sync' })

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
    const draftVersions: Version[] = [...changes.value.map(versionOf), ...typed()]
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
      const text = source()
      const world = { ...(text ? {} : { live }), draft: draftVersions, context: context.value }
      const here = ++worlds
      const answer = await askWorld('world', world, text)
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

  return { board, tiers, told, context, lookFirst }
}

/** Bodies are never changed in place: the same one says the same. */
const isAlike = (one: Version, other: Version | undefined) =>
  other !== undefined && one.body === other.body && one.position === other.position
