/** A page that was made before for somebody who is answered alike: found without reading anything. */
import { setResponseHeaders, setResponseStatus } from 'h3'
import type { H3Event } from 'h3'
import type { CompiledDecider } from '../../core/gates/compiled-decider'
import { callerOf, keepingAsk } from '../request/caller'
import { headerOfFact } from '../request/facts'
import { settled } from '../services/facts/settled'
import { keptPage } from '../services/pages/kept-pages'
import { endMoment, momentDecider } from '../services/pages/moment-deciders'
import { planLooks, plannedPage } from '../services/pages/page-plans'
import type { PlannedPage } from '../services/pages/page-plans'
import { cacheHeaders } from '../services/pages/page-view'
import type { KeepingAsk } from '../services/pages/page-view'
import { slotsOf } from '../services/pages/slots'
import { spokenIn } from './asked'
import { askToSignIn, isNotModified, sendKept } from './kept-answer'
import { noteVisit } from './noted'

/** The page as it was made for somebody who is answered alike; undefined where none was. Nothing is read for it. */
export async function planned(event: H3Event, path: string): Promise<Buffer | string | undefined> {
  const caller = await callerOf(event)
  const { snapshot } = caller
  const find = (decider: CompiledDecider) => plannedPage({ snapshot, decider, path, spoken: spokenIn(event) })
  // What stands behind the path is seldom two visitors' own.
  let decider = event.path.includes('?') ? caller.decider : momentDecider(caller, planLooks(snapshot, path))
  let result = find(decider)
  if (decider.asker.missed.size) {
    endMoment()
    const asked = await settled(caller.decider, async one => find(one))
    decider = asked.decider
    result = asked.result
  }
  const page = result && keptPage(result.key)
  if (!result || !page) return undefined
  caller.decider = decider
  event.context.ownPath = 'page'
  const { key, status, siteName, thing, refused } = result
  noteVisit(event, { view: {}, ...(thing ? { thing } : {}), ...(refused ? { refused } : {}) })
  setResponseHeaders(event, plannedHeaders(result, keepingAsk(caller)))
  setResponseStatus(event, status)
  if (status === 401) askToSignIn(event, siteName)
  const slots = result.slots ? slotsOf(decider, snapshot.firms, path) : undefined
  if (isNotModified(event, status, key, slots)) return ''
  return sendKept(event, key, page, slots)
}

/** Who may keep a page is the same each time it is sent, to guests and to people signed in. */
const headersOf = new WeakMap<PlannedPage, Partial<Record<'guest' | 'signedIn', Record<string, string>>>>()
function plannedHeaders(page: PlannedPage, ask: KeepingAsk): Record<string, string> {
  let known = headersOf.get(page)
  if (!known) headersOf.set(page, (known = {}))
  const { status, facts } = page
  return (known[ask.guest ? 'guest' : 'signedIn'] ??= cacheHeaders({ view: { status }, facts }, headerOfFact(), ask))
}
