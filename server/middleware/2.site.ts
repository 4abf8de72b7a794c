/** Decides what an address shows before anything is rendered. */
import {
  defineEventHandler,
  getHeader,
  getQuery,
  getRequestURL,
  sendRedirect,
  setResponseHeader,
  setResponseHeaders,
  setResponseStatus,
} from 'h3'
import type { H3Event } from 'h3'
import Negotiator from 'negotiator'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { db } from '../db/database'
import { isAnsweredByRoute, isFormPage, searchAddress } from '../../core/site/own-addresses'
import { callerOf, headerOfFact, keepingAsk } from '../request'
import type { Caller } from '../request'
import { encodingFor, keptPage, packedPage, piecesOf } from '../services/pages/kept-pages'
import type { KeptPage } from '../services/pages/kept-pages'
import { learnPage, planLooks, plannedPage } from '../services/pages/page-plans'
import type { PlannedPage } from '../services/pages/page-plans'
import { endMoment, momentDecider } from '../services/pages/moment-deciders'
import { slotsOf } from '../services/pages/slots'
import type { Slots } from '../services/pages/slots'
import type { PageView } from '../../core/view/view'
import { answerOwn } from '../own-pages/answer'
import { ownPageAt } from '../own-pages/index'
import { Problem } from '../problem'
import { contentPolicy } from '../content-policy'
import { readSaid } from '../../core/pictures/picture-file'
import { pictureFor, sendPicture } from '../services/pages/picture-of'
import { fetchedFile } from '../services/files/fetches'
import { sendFile } from '../services/files/send-file'
import type { StoredPicture } from '../services/files/pictures'
import { siteAddress } from '../services/mail/mail'
import { settled } from '../services/facts/settled'
import { recordVisit } from '../services/activity/visits'
import { isStaff } from '../services/staff/authorise'
import { authoriseWalk, hiddenPanels } from '../services/entrance/walk-rights'
import { assembleView, cacheHeaders, viewKey } from '../services/pages/page-view'
import { searchView } from '../services/pages/search-view'
import type { KeepingAsk, SentView, ViewAsk } from '../services/pages/page-view'
import { draftSeenBy } from '../services/editions/draft-seen'
import { editionSnapshot } from '../services/live/snapshot'
import { readWalkToken } from '../services/entrance/walk-token'
import { wayBack } from '../../core/site/way-back'

export default defineEventHandler(async event => {
  const path = sitePathOf(event)
  if (path === null) return
  const own = ownPageAt(path)
  if (own) {
    event.context.ownPath = own.page.path
    const answered = await answerOwn(event, own)
    if (event.handled || answered !== undefined) return answered
    if (own.page.script) letScript(event)
    const { view, slots } = await visited(event, null)
    event.context.view = view
    event.context.slots = slots
    return
  }
  if (event.method === 'POST') return
  if (path === '/loft' || path.startsWith('/loft/')) return guardLoft(event, path)
  const isPlain =
    !path.startsWith('/walk/') && !isFormPage(path) && path !== searchAddress && doneIn(event, path) === undefined
  if (isPlain) {
    const answered = await planned(event, path)
    if (answered !== undefined) return answered
  }
  const assembled = path.startsWith('/walk/')
    ? await walked(event, path)
    : await visited(event, isFormPage(path) ? null : path)
  if (assembled === null) return null
  if ('bytes' in assembled) {
    setResponseHeaders(event, { 'cache-control': 'private, no-store', vary: 'Cookie' })
    return sendPicture(event, assembled)
  }
  noteVisit(event, assembled)
  setResponseHeaders(event, cacheHeaders(assembled, headerOfFact(), keepingAsk(event.context.caller as Caller)))
  if (assembled.redirect) return sendRedirect(event, assembled.redirect, 303)
  const { view, personal, slots } = assembled
  setResponseStatus(event, view.status)
  if (view.status === 401) askToSignIn(event, view.siteName)
  event.context.view = view
  event.context.siteAddress = siteAddress()
  event.context.slots = slots
  if (!isPlain || personal) return
  const key = viewKey(view)
  const { decider, snapshot } = event.context.caller as Caller
  learnPage({ snapshot, decider, path, spoken: spokenIn(event) }, assembled, key)
  if (isNotModified(event, view.status, key, slots.used ? slots : undefined)) return ''
  const page = keptPage(key)
  if (!page) return void (event.context.viewKey = key)
  return sendKept(event, key, page, slots)
})

const spokenIn = (event: H3Event) => (offered: readonly string[]) =>
  new Negotiator(event.node.req).language([...offered])
/** A page that says what was just done, once. */
const doneIn = (event: H3Event, path: string | null): string | undefined => {
  const { done } = getQuery(event)
  return path === '/account' && typeof done === 'string' ? done : undefined
}

/** The page as it was made for somebody who is answered alike; undefined where none was. Nothing is read for it. */
async function planned(event: H3Event, path: string): Promise<Buffer | string | undefined> {
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

function askToSignIn(event: H3Event, siteName: string): void {
  setResponseHeader(event, 'www-authenticate', `Session realm="${siteName.replaceAll(/[^ -~]|["\\]/g, '')}"`)
}

/** Of a page with somebody's own words in it, what is sent is not the view alone. Only what is there for them is kept. */
function isNotModified(event: H3Event, status: number, key: string, slots: Slots | undefined): boolean {
  if (status !== 200) return false
  const tag = `W/"${slots ? `${key}.${slots.fingerprint}` : key}"`
  setResponseHeader(event, 'etag', tag)
  if (getHeader(event, 'if-none-match') !== tag) return false
  setResponseStatus(event, 304)
  return true
}

function sendKept(event: H3Event, key: string, page: KeptPage, slots: Slots | undefined): Buffer | string {
  setResponseHeader(event, 'content-type', 'text/html;charset=utf-8')
  if (slots) return slots.fillPieces(piecesOf(page))
  const vary = event.node.res.getHeader('vary')
  setResponseHeader(event, 'vary', vary ? `${String(vary)}, Accept-Encoding` : 'Accept-Encoding')
  const encoding = encodingFor(getHeader(event, 'accept-encoding'))
  const packed = encoding && packedPage(key, page, encoding)
  if (packed) setResponseHeader(event, 'content-encoding', encoding)
  return packed ?? page.html
}

/** The path of a page asked for; null for everything else the server answers. The door lets only canonical paths in. */
function sitePathOf(event: H3Event): string | null {
  const raw = event.path.split('?')[0]!
  if (/^\/(_nuxt|__nuxt[^/]*|_fonts)(\/|$)/.test(raw) || isAnsweredByRoute(raw)) return null
  return decodeURIComponent(raw)
}

async function guardLoft(event: H3Event, path: string) {
  const { decider } = await callerOf(event)
  setResponseHeaders(event, { 'cache-control': 'private, no-store', vary: 'Cookie' })
  if (!decider.asker.signedIn) return sendRedirect(event, `/sign-in?back=${wayBack(path)}`, 303)
  if (!isStaff(decider)) throw new Problem('not-allowed')
}

async function visited(event: H3Event, path: string | null): Promise<SentView> {
  const caller = await callerOf(event)
  const { snapshot, signedIn } = caller
  // Pages for signing in stand outside the gates; they borrow the site's frame from an address that is not there.
  const { back } = getQuery(event)
  const { result: assembled, decider } = await settled(caller.decider, decider => {
    const ask: ViewAsk = {
      snapshot,
      decider,
      db: db(),
      path: path ?? '',
      done: doneIn(event, path),
      spoken: spokenIn(event),
      sessionId: signedIn?.sessionId,
      ...(path === null && typeof back === 'string' ? { back: back.split(/[?#]/)[0]! } : {}),
    }
    return path === searchAddress ? searchView(ask, askedIn(event)) : assembleView(ask)
  })
  if (path === searchAddress) letScript(event)
  caller.decider = decider
  if (path === null) {
    assembled.view.status = 200
    // Whoever signs in somewhere else is shown another frame.
    void decider.signedIn
  }
  return assembled
}

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

async function walked(event: H3Event, path: string): Promise<SentView | StoredPicture | null> {
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

const askedIn = (event: H3Event): string | undefined => {
  const { q } = getQuery(event)
  return typeof q === 'string' ? q.replaceAll(/[\0\p{Surrogate}]/gu, ' ') : undefined
}

/** Searching while one types, and counting and choosing while one buys, take scripts, the only ones of the site. */
function letScript(event: H3Event, ancestors?: string): void {
  const policy = contentPolicy({ scripts: "'self'", styles: "'unsafe-inline'", ...(ancestors ? { ancestors } : {}) })
  setResponseHeader(event, 'content-security-policy', policy)
}

/** Views and refusals go into the activity; walks are the keeper's, not the visitor's. */
function noteVisit(
  event: H3Event,
  { view, thing, refused }: Pick<SentView, 'thing' | 'refused'> & { view: Pick<PageView, 'walked'> },
): void {
  if (!thing || view.walked || event.method !== 'GET') return
  recordVisit(refused ? 'refused' : 'view', thing, event.context.caller as Caller)
}
