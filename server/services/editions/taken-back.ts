/** Taking a step of the draft back: what it changed is again as it was, where nobody has changed that since. */
import { isEntryKind, nameOf } from '../../../core/editions/contents'
import type { Back, Said } from '../../../core/editions/step-back'
import type { AnyDb } from '../../db/database'
import { inTransaction } from '../../db/turn'
import type { VersionedThing } from '../../kinds/kinds'
import { Problem } from '../../problem'
import type { Actor } from '../../trace'
import type { Worker } from '../live/worker'
import { contentOf } from '../versions/versions'
import { refuseHeld, titled } from './checks'
import { applyWork, openTurn } from './draft'
import type { Changed, Put, Turn } from './draft'
import { permitPuts } from './history'
import { briefOf, takeStep } from './step-journal'
import { refuseSwitchedOff, refuseUnkept } from './things'

/**
 * What it answers can be taken back in turn: that does it anew. The rights are asked of what is put back, as if it were
 * written by hand. Throws `no-such-step` for none of theirs, and `step-overtaken` where something was changed since.
 */
export const takeBack = (db: AnyDb, worker: Worker, step: number, actor: Actor): Promise<Changed> =>
  inTransaction(db, async tx => {
    const turn = await openTurn(tx, actor)
    const back = actor.id === null ? null : await takeStep(tx, actor.id, step)
    if (!back) throw new Problem('no-such-step')
    await refuseOvertaken(turn, back)
    const puts = back.map(({ kind, key, said }): Put => (said ? { kind, key, ...said } : { kind, key, body: null }))
    await permitPuts(turn, worker, puts)
    for (const put of puts) await refuseUnfit(turn, put)
    const [first, ...others] = back
    return applyWork(turn, async () => ({
      puts,
      action: 'draft.take-back',
      subject: nameOf(first!),
      ...(others.length ? { detail: { with: others.map(nameOf) } } : {}),
      removes: puts.every(put => put.body === null),
    }))
  })

async function refuseUnfit({ tx }: Turn, { kind, key, body, content }: Put): Promise<void> {
  if (isEntryKind(kind)) return body === null ? refuseHeld(tx, kind, key) : undefined
  if (body === null) return
  const whole = { ...(body as Record<string, unknown>), ...content }
  await refuseSwitchedOff(tx, kind as VersionedThing, whole)
  await refuseUnkept(tx, kind as VersionedThing, whole)
}

async function refuseOvertaken({ tx, draft }: Turn, back: readonly Back[]): Promise<void> {
  const now = back.flatMap(({ kind, key }) => draft.get(kind, key) ?? [])
  const contents = await contentOf(
    tx,
    now.map(one => one.id),
  )
  const said = ({ kind, key }: Back): Said | null => {
    const found = draft.get(kind, key)
    return found
      ? { body: found.body as object, content: contents.get(found.id) ?? {}, position: found.position }
      : null
  }
  const overtaken = back.filter(one => briefOf(said(one)) !== one.left)
  const [first] = overtaken
  if (!first) return
  const found = draft.get(first.kind, first.key)
  throw new Problem(
    'step-overtaken',
    {
      what: titled(found ?? { ...first, position: 0, body: first.said?.body ?? null }),
      by: found?.changedBy ?? null,
      more: overtaken.length - 1,
    },
    { overtaken: overtaken.map(nameOf) },
  )
}
