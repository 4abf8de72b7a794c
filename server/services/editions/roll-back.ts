/** Makes the site again what it was in an edition: in the draft, or at once as a new edition. */
import { inTransaction } from '../../db/turn'
import { LRUCache } from 'lru-cache'
import { canonical } from '../../../core/canonical'
import { nameOf } from '../../../core/editions/contents'
import type { AnyDb } from '../../db/database'
import { Problem } from '../../problem'
import type { Actor } from '../../trace'
import { applyWork, openTurn } from './draft'
import type { Put } from './draft'
import { permitPuts } from './history'
import { authorisePublication, goLive, publicationOf, refuseUnfit } from './publish'
import { contentOf, contentsAt, readState } from '../versions/versions'
import type { SiteState } from '../versions/versions'
import type { Worker } from '../live/worker'

export interface RollBack {
  /** Names of what is brought back, `kind key`. Default: everything that differs. */
  chosen?: readonly string[] | null | undefined
  atOnce: boolean
  /** The live edition that was seen. */
  expects: number
}

/**
 * What differs between the live edition and edition `number` comes into the draft as it was then;
 * other changes of the draft stay. At once, only that is published. Returns how much it is, and the
 * new edition's number or null.
 */
export async function rollBack(
  db: AnyDb,
  worker: Worker,
  number: number,
  { chosen, atOnce, expects }: RollBack,
  actor: Actor,
): Promise<{ changes: number; edition: number | null }> {
  return inTransaction(db, async tx => {
    const turn = await openTurn(tx, actor)
    const { live } = turn.state
    if (live !== expects) throw new Problem('published-meanwhile', { live }, { live })
    if (number < 1 || number >= live) throw new Problem('no-earlier-edition', { edition: number })
    const wanted = chosen && new Set(chosen)
    const puts = (await plannedPuts(tx, turn.state, number)).filter(put => !wanted || wanted.has(nameOf(put)))
    if (!puts.length) throw new Problem('same-as-edition', { edition: number })
    await permitPuts(turn, worker, puts)
    await applyWork(turn, async () => ({
      puts,
      action: 'rules.roll-back',
      subject: `edition ${number}`,
      detail: { changes: puts.length, atOnce },
    }))
    if (!atOnce) return { changes: puts.length, edition: null }
    const after = await openTurn(tx, actor)
    const names = puts.map(nameOf).filter(name => after.changed.has(name))
    if (!names.length) throw new Problem('same-as-edition', { edition: number })
    const publication = publicationOf(after, names)
    await authorisePublication(worker, after, publication)
    await refuseUnfit(after, publication)
    return { changes: puts.length, edition: await goLive(after, publication, `Back to edition ${number}.`) }
  })
}

/**
 * Reads what differs before anybody's turn begins: thousands of versions would otherwise be read while the
 * draft is held. Editions never change, so what is planned holds as long as the same one is live.
 */
export async function planRollBack(db: AnyDb, number: number): Promise<void> {
  const state = await readState(db)
  // What is no number of an earlier edition is refused in the turn.
  if (Number.isInteger(number) && number >= 1 && number < state.live) await plannedPuts(db, state, number)
}

/** Read ahead by one request and used by the same: kept for as long as that takes. */
const planned = new LRUCache<string, Promise<Put[]>>({ max: 2, ttl: 60_000, ttlAutopurge: true })

function plannedPuts(tx: AnyDb, state: SiteState, number: number): Promise<Put[]> {
  const name = `${state.database} ${state.live} ${number}`
  const known = planned.get(name)
  if (known) return known
  const reading = putsTo(tx, state, number)
  planned.set(name, reading)
  reading.catch(() => planned.delete(name))
  return reading
}

/** What must be put into the draft so that it says what the edition said. */
async function putsTo(tx: AnyDb, state: SiteState, number: number): Promise<Put[]> {
  const [then, live] = [await contentsAt(tx, state, number), await contentsAt(tx, state, state.live)]
  const names = new Set([...then.versions, ...live.versions].map(nameOf))
  const differing = [...names].flatMap(name => {
    const space = name.indexOf(' ')
    const [kind, key] = [name.slice(0, space) as 'page', name.slice(space + 1)]
    const [before, now] = [then.get(kind, key), live.get(kind, key)]
    return before?.id === now?.id ? [] : [{ kind, key, before, now }]
  })
  const contents = await contentOf(
    tx,
    differing.flatMap(({ before, now }) => [before?.id, now?.id]).filter(id => id !== undefined),
  )
  const said = (one: { id: number; body: unknown; position: number } | undefined) =>
    one && canonical([one.body, contents.get(one.id) ?? {}, one.position])
  return differing.flatMap(({ kind, key, before, now }): Put[] => {
    if (said(before) === said(now)) return []
    return [
      {
        kind,
        key,
        body: (before?.body as object) ?? null,
        ...(before ? { content: contents.get(before.id) ?? {}, position: before.position } : {}),
      },
    ]
  })
}
