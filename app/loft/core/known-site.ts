/** The site as the console knows it: what is live, what the server's draft makes of it, and which edition is looked at. */
import { computed, ref, shallowRef } from 'vue'
import { Contents, nameOf } from '~~/core/editions/contents'
import { emptySite } from '~~/core/site/site'
import type { SentVersion } from './route-answers'
import { loftApi, loftText } from './loft-api'
import type { DraftChange, LoftStart, SavedChanges } from './loft-api'
import { useSeenAsRole } from './seen-as-role'
import { wakeCore } from './worker/ask-core'

type Named = LoftStart['named']
/** As many persons and firms are remembered. */
const mostMet = 1000
const nothing = new Contents<SentVersion>([], emptySite)

export type KnownSite = ReturnType<typeof makeKnownSite>

/** `settled`: waits until what is typed has reached the server, before another edition is looked at. */
export function makeKnownSite({ settled }: { settled: () => Promise<void> }) {
  const data = shallowRef<LoftStart | null>(null)
  /** The text it was read from. */
  let source: string | undefined
  /** What is live, and what the server's draft makes of it. */
  const base = shallowRef(nothing)
  const saved = shallowRef(nothing)
  const changes = shallowRef<DraftChange[]>([])
  const failure = ref('')
  /** The edition that is looked at as it was, in place of now: nothing is changed there. */
  const visiting = ref<number | null>(null)
  /** The edition that was asked for last, or null for now, whether it is there yet or not. */
  let bound: number | null = null
  /** Persons and firms rules name, and those met on screens, so that sentences can name them. */
  const met = shallowRef<Named>({ people: [], firms: [] })
  const seenAs = useSeenAsRole()
  let reading: Promise<void> = Promise.resolve()
  let asked = 0
  /** How far the draft is known. */
  let draftVersion = 0

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

  function lookAtEdition(number: number | null): void {
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

  return {
    data,
    base,
    saved,
    changes,
    failure,
    visiting,
    met,
    meet,
    load,
    visit,
    take,
    edition: computed(() => data.value?.edition ?? 0),
    /** The edition that is looked at, or is on its way to be; null for now. */
    goingTo: () => bound,
    /** The text the site was read from, where it was. */
    source: () => source,
  }
}

export const versionOf = ({ kind, key, position, after, id, revision }: DraftChange): SentVersion => ({
  kind,
  key,
  position,
  body: after,
  id,
  revision,
})
