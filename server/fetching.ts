/** What both addresses of a download's file share: who asks, whether they may have it, and what is written down. */
import { setResponseHeaders } from 'h3'
import type { H3Event } from 'h3'
import type { FactGroup } from '../core/conditions/leaves/leaf'
import type { CompiledDecider } from '../core/gates/compiled-decider'
import { decidingGate } from '../core/gates/deciding-gate'
import { readSaid } from '../core/pictures/picture-file'
import { db } from './db/database'
import { Problem } from './problem'
import { callerOf } from './request'
import type { Caller } from './request'
import { record, tierOf } from './services/activity/activity'
import { fetchedFile } from './services/files/fetches'
import type { Fetched } from './services/files/fetches'
import { isBeginning, sendFile } from './services/files/send-file'
import { settled } from './services/facts/settled'

export interface Fetching {
  caller: Caller
  decider: CompiledDecider
  facts: ReadonlySet<FactGroup>
  fetched: Fetched
}

/**
 * The file of a download, for whoever may take it. What is not there and what may not be found are the same; who may
 * find it is told that it is not for them, which is counted. `unavailable` and the like as elsewhere.
 */
export async function fetching(event: H3Event, id: string): Promise<Fetching> {
  const caller = await callerOf(event)
  setResponseHeaders(event, { 'cache-control': 'private, no-store', vary: 'Cookie' })
  const asOnPage = caller.decider.withRequest(readSaid(caller.decider.visitor.request?.query ?? {}))
  const { result, decider } = await settled(asOnPage, async one => {
    const facts = one.watch()
    return { facts, fetched: await fetchedFile(caller.snapshot, one, db(), id) }
  })
  const { facts, fetched } = result
  if (!fetched?.verdict.take) {
    if (caller.snapshot.contents.get('download', id) !== undefined) note(event, { caller, decider }, id, 'refused')
    if (!fetched) throw new Problem('not-found')
    throw decider.signedIn
      ? new Problem('file-not-yours', { called: fetched.title, why: fetched.verdict.takeNotice?.text ?? '' })
      : new Problem('file-after-sign-in', { called: fetched.title })
  }
  return { caller, decider, facts, fetched }
}

export async function sendFetched(event: H3Event, { fetched, ...who }: Fetching, id: string): Promise<void> {
  if (isBeginning(event)) note(event, who, id, 'download')
  await sendFile(event, fetched.file, fetched.fileName)
}

function note(
  event: H3Event,
  who: Pick<Fetching, 'caller' | 'decider'>,
  id: string,
  kind: 'download' | 'refused',
): void {
  const { caller, decider } = who
  const thing = { kind: 'download', id } as const
  record({
    kind,
    personId: caller.signedIn?.personId ?? null,
    tier: tierOf(decider.asker, decider.rules.rulebook),
    subjectKind: thing.kind,
    subjectId: id,
    ...(kind === 'refused' ? { gate: () => decidingGate(decider, thing) } : {}),
  })
}
