/** Decides what an address shows before anything is rendered. */
import { defineEventHandler, getHeader, getQuery, getRequestURL, sendRedirect, setResponseHeader, setResponseHeaders, setResponseStatus } from 'h3'
import type { H3Event } from 'h3'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { db } from '../db/database'
import { callerOf, headerOfFact } from '../request'
import { keptPage } from '../services/pages/kept-pages'
import { answerOwn } from '../own-pages/answer'
import { ownPageAt } from '../own-pages/index'
import { Problem } from '../problem'
import { record, tierOf } from '../services/activity/activity'
import { authorise, isStaff } from '../services/staff/authorise'
import { saidAfter } from '../services/pages/said-after'
import { assembleView, cacheHeaders, viewKey } from '../services/pages/page-view'
import type { Assembled } from '../services/pages/page-view'
import { draftSnapshot } from '../services/rules/snapshot'
import { readWalkToken } from '../services/entrance/walk-token'

/** Pages with routes of their own for what their forms send. */
const formPages = new Set(['/sign-in', '/first-keeper'])

export default defineEventHandler(async (event) => {
  const path = sitePathOf(event)
  if (path === null) return
  const own = ownPageAt(path)
  if (own) {
    const answered = await answerOwn(event, own)
    if (event.handled || answered !== undefined) return answered
    event.context.view = (await visited(event, null)).view
    return
  }
  if (event.method === 'POST') return
  if (path === '/loft' || path.startsWith('/loft/')) return guardLoft(event, path)
  const assembled = path.startsWith('/walk/') ? await walked(event, path) : await visited(event, formPages.has(path) ? null : path)
  if (assembled.redirect) {
    await noteVisit(event, assembled)
    setResponseHeaders(event, cacheHeaders(assembled, headerOfFact))
    return sendRedirect(event, assembled.redirect, 303)
  }
  setResponseHeaders(event, cacheHeaders(assembled, headerOfFact))
  setResponseStatus(event, assembled.view.status)
  if (assembled.view.status === 401) setResponseHeader(event, 'www-authenticate', `Session realm="${assembled.view.siteName.replaceAll(/[^ -~]|["\\]/g, '')}"`)
  event.context.view = assembled.view
  await noteVisit(event, assembled)
  if (assembled.view.status !== 200 || assembled.view.walked || formPages.has(path)) return
  const key = viewKey(assembled.view)
  setResponseHeader(event, 'etag', `W/"${key}"`)
  if (getHeader(event, 'if-none-match') === `W/"${key}"`) {
    setResponseStatus(event, 304)
    return ''
  }
  const html = keptPage(key)
  if (html === undefined) return void (event.context.viewKey = key)
  setResponseHeader(event, 'content-type', 'text/html;charset=utf-8')
  return html
})

/** The path of a page asked for; null for everything else the server answers. */
function sitePathOf(event: H3Event): string | null {
  if (event.method !== 'GET' && event.method !== 'HEAD' && event.method !== 'POST') return null
  const raw = getRequestURL(event).pathname
  if (/^\/(api|_nuxt|__nuxt[^/]*|_fonts)(\/|$)/.test(raw)) return null
  try {
    const path = decodeURIComponent(raw)
    return path === '/' ? path : path.replace(/\/+$/, '') || '/'
  }
  catch {
    return '/%'
  }
}

async function guardLoft(event: H3Event, path: string) {
  const { decider } = await callerOf(event)
  setResponseHeaders(event, { 'cache-control': 'private, no-store', 'vary': 'Cookie' })
  if (!decider.asker.signedIn) return sendRedirect(event, `/sign-in?back=${encodeURIComponent(path)}`, 303)
  if (!isStaff(decider)) throw new Problem('not-allowed')
}

async function visited(event: H3Event, path: string | null): Promise<Assembled> {
  const { snapshot, decider, signedIn } = await callerOf(event)
  // Pages for signing in stand outside the gates; they borrow the site's frame from an address that is not there.
  const done = getQuery(event).done
  const assembled = await assembleView({ snapshot, decider, db: db(), path: path ?? '', said: path === '/account' && typeof done === 'string' ? saidAfter[done] : undefined, sessionId: signedIn?.sessionId })
  if (path === null) {
    assembled.view.status = 200
    assembled.facts.add('person')
  }
  return assembled
}

async function walked(event: H3Event, path: string): Promise<Assembled> {
  const caller = await callerOf(event)
  const [, , token = '', ...rest] = path.split('/')
  const pass = readWalkToken(token, caller.signedIn?.sessionId, caller.nowMs)
  authorise(caller.rights, { kind: 'gates', action: 'look' })
  const snapshot = pass.draft ? await draftSnapshot() : caller.snapshot
  const query = Object.fromEntries(getRequestURL(event).searchParams)
  const visitor = { ...pass.visitor, request: { ...pass.visitor.request, query } }
  const decider = new CompiledDecider(snapshot.rules, visitor, caller.nowMs)
  return assembleView({ snapshot, decider, db: db(), path: `/${rest.join('/')}`, base: `/walk/${token}`, walked: { tier: pass.tier, draft: pass.draft } })
}

/** Views and refusals go into the activity; walks are the keeper's, not the visitor's. */
async function noteVisit(event: H3Event, { view, page, refusedBy }: Assembled): Promise<void> {
  if (!page || view.walked || event.method !== 'GET') return
  const { decider, signedIn } = await callerOf(event)
  const who = { personId: signedIn?.personId ?? null, tier: tierOf(decider.asker, decider.rules.rulebook), subjectKind: 'page', subjectId: page }
  if (refusedBy === undefined) record({ kind: 'view', ...who })
  else record({ kind: 'refused', ...who, gate: refusedBy })
}
