/** What both addresses of a download's file share: who asks, whether they may have it, and what is written down. */
import { setResponseHeaders } from 'h3'
import type { H3Event } from 'h3'
import type { FactGroup } from '../core/visitor/fact-group'
import type { CompiledDecider } from '../core/gates/compiled-decider'
import { readSaid } from '../core/pictures/picture-file'
import { db } from './db/database'
import { Problem } from './problem'
import { callerOf } from './request/caller'
import type { Caller } from './request/caller'
import { recordVisit } from './services/activity/visits'
import { networkOf } from './forwarded'
import { countFetch, fetchedFile, mostADay } from './services/files/fetches'
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
    if (caller.snapshot.contents.get('download', id) !== undefined)
      recordVisit('refused', { kind: 'download', id }, { signedIn: caller.signedIn, decider })
    if (!fetched) throw new Problem('not-found')
    throw decider.signedIn
      ? new Problem('file-not-yours', { called: fetched.title, why: fetched.verdict.takeNotice?.text ?? '' })
      : new Problem('file-after-sign-in', { called: fetched.title })
  }
  return { caller, decider, facts, fetched }
}

/** Counts it once a day, by whichever address it is fetched; looking counts nothing. Throws `fetched-enough`. */
export async function countFetched(event: H3Event, { caller, decider }: Fetching, id: string): Promise<void> {
  if (event.context.headOnly) return
  const { signedIn, snapshot } = caller
  await countFetch(db(), {
    download: id,
    who: signedIn ? { person: signedIn.personId } : { network: networkOf(event) },
    most: mostADay(decider, snapshot.settings.files),
    timezone: decider.rules.index.site.timezone,
  })
}

export async function sendFetched(event: H3Event, { fetched, caller, decider }: Fetching, id: string): Promise<void> {
  if (isBeginning(event)) recordVisit('download', { kind: 'download', id }, { signedIn: caller.signedIn, decider })
  await sendFile(event, fetched.file, fetched.fileName)
}
