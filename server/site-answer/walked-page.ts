/** A page as somebody of the staff looks at it: as a kind of visitor, live, in the draft or in an edition. */
import { getRequestURL, setResponseHeaders } from 'h3'
import type { H3Event } from 'h3'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { readSaid } from '../../core/pictures/picture-file'
import { searchAddress } from '../../core/site/own-addresses'
import { db } from '../db/database'
import { Problem } from '../problem'
import { callerOf } from '../request/caller'
import { draftSeenBy } from '../services/editions/draft-seen'
import { authoriseWalk, hiddenPanels } from '../services/entrance/walk-rights'
import { readWalkToken } from '../services/entrance/walk-token'
import { fetchedFile } from '../services/files/fetches'
import type { StoredPicture } from '../services/files/pictures'
import { sendFile } from '../services/files/send-file'
import { editionSnapshot } from '../services/live/snapshot'
import { assembleView } from '../services/pages/page-view'
import type { SentView, ViewAsk } from '../services/pages/page-view'
import { pictureFor } from '../services/pages/picture-of'
import { searchView } from '../services/pages/search-view'
import { askedIn } from './asked'
import { letScript } from './noted'

/** As whom, and in which edition, an address below /walk is looked at. */
async function walkAt(event: H3Event, path: string) {
  const caller = await callerOf(event)
  const [, , token = '', ...rest] = path.split('/')
  const pass = readWalkToken(token, caller.signedIn?.sessionId, caller.nowMs)
  const snapshot =
    pass.edition !== undefined
      ? await editionSnapshot(pass.edition)
      : pass.draft
        ? await draftSeenBy(db(), caller)
        : caller.snapshot
  await authoriseWalk(db(), caller.rights, caller.snapshot, snapshot.rules.rulebook, pass.visitor)
  const query = Object.fromEntries(getRequestURL(event).searchParams)
  const visitor = { ...pass.visitor, request: { ...pass.visitor.request, query } }
  const decider = new CompiledDecider(snapshot.rules, visitor, caller.nowMs)
  return { caller, pass, snapshot, decider, base: `/walk/${token}`, rest }
}

export async function walked(event: H3Event, path: string): Promise<SentView | StoredPicture | null> {
  const { caller, pass, snapshot, decider, base, rest } = await walkAt(event, path)
  const [first, kind, id, mark, ...more] = rest
  if (first === 'fetch' && kind && id === undefined) {
    const asOnPage = decider.withRequest(readSaid(decider.visitor.request?.query ?? {}))
    const found = await fetchedFile(snapshot, asOnPage, db(), kind)
    if (!found?.verdict.take) throw new Problem('not-found')
    setResponseHeaders(event, { 'cache-control': 'private, no-store', vary: 'Cookie' })
    await sendFile(event, found.file, found.fileName)
    return null
  }
  if (first === 'picture' && kind && id && mark && !more.length) {
    const asOnPage = decider.withRequest(readSaid(decider.visitor.request?.query ?? {}))
    const found = await pictureFor({ snapshot, decider: asOnPage, db: db(), kind, id, mark })
    if (!found) throw new Problem('not-found')
    return found
  }
  const ask: ViewAsk = {
    snapshot,
    decider,
    db: db(),
    path: `/${rest.join('/')}`,
    base,
    walked: { tier: pass.tier, draft: pass.draft, ...(pass.edition === undefined ? {} : { edition: pass.edition }) },
    hidden: hiddenPanels(caller.rights),
  }
  if (ask.path !== searchAddress) return assembleView(ask)
  letScript(event, "'self'")
  return searchView(ask, askedIn(event))
}
