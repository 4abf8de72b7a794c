/** Decides what an address shows before anything is rendered. */
import { defineEventHandler, getQuery, sendRedirect, setResponseHeaders, setResponseStatus } from 'h3'
import type { H3Event } from 'h3'
import { isFormPage, ownShownAt, searchAddress } from '../../core/site/own-addresses'
import { wayBack } from '../../core/site/way-back'
import { answerOwn } from '../own-pages/answer'
import { ownPageAt } from '../own-pages/index'
import { Problem } from '../problem'
import { callerOf, keepingAsk } from '../request/caller'
import { headerOfFact } from '../request/facts'
import { noteAsked } from '../services/activity/asked-addresses'
import { siteAddress } from '../services/mail/mail'
import { keptPage } from '../services/pages/kept-pages'
import { learnPage } from '../services/pages/page-plans'
import { cacheHeaders, viewKey } from '../services/pages/page-view'
import { sendPicture } from '../services/pages/picture-of'
import { isStaff } from '../services/staff/authorise'
import { doneIn, sitePathOf, spokenIn } from '../site-answer/asked'
import { askToSignIn, isNotModified, sendKept } from '../site-answer/kept-answer'
import { letLead, letScript, noteVisit } from '../site-answer/noted'
import { planned } from '../site-answer/planned-page'
import { visited } from '../site-answer/visited-page'
import { walked } from '../site-answer/walked-page'

export default defineEventHandler(async event => {
  const path = sitePathOf(event)
  if (path === null) return
  if (!path.startsWith('/walk/')) {
    await callerOf(event)
    letLead(event)
  }
  const own = ownPageAt(path)
  if (own) {
    event.context.ownPath = own.page.path
    const answered = await answerOwn(event, own)
    if (event.handled || answered !== undefined) return answered
    if (own.page.script) letScript(event)
    const { view, slots } = await visited(event, { own: ownShownAt(path) ?? 'account' })
    event.context.view = view
    event.context.slots = slots
    return
  }
  if (event.method === 'POST') return
  if (path === '/loft' || path.startsWith('/loft/')) return guardLoft(event, path)
  const isPlain =
    !path.startsWith('/walk/') && !isFormPage(path) && path !== searchAddress && doneIn(event, path) === undefined
  if (isPlain) {
    noteAsked(path, getQuery(event))
    const answered = await planned(event, path)
    if (answered !== undefined) return answered
  }
  const assembled = path.startsWith('/walk/')
    ? await walked(event, path)
    : await visited(event, isFormPage(path) ? { own: 'entrance' } : path)
  if (assembled === null) return null
  if ('bytes' in assembled) {
    setResponseHeaders(event, { 'cache-control': 'private, no-store', vary: 'Cookie' })
    return sendPicture(event, assembled)
  }
  noteVisit(event, assembled)
  setResponseHeaders(event, cacheHeaders(assembled, headerOfFact(), keepingAsk(event.context.caller!)))
  if (assembled.redirect) return sendRedirect(event, assembled.redirect, 303)
  const { view, personal, slots } = assembled
  setResponseStatus(event, view.status)
  if (view.status === 401) askToSignIn(event, view.siteName)
  event.context.view = view
  event.context.siteAddress = siteAddress()
  event.context.slots = slots
  if (!isPlain || personal) return
  const key = viewKey(view)
  const { decider, snapshot } = event.context.caller!
  learnPage({ snapshot, decider, path, spoken: spokenIn(event) }, assembled, key)
  if (isNotModified(event, view.status, key, slots.used ? slots : undefined)) return ''
  const page = keptPage(key)
  if (!page) return void (event.context.viewKey = key)
  return sendKept(event, key, page, slots)
})

async function guardLoft(event: H3Event, path: string) {
  const { decider } = await callerOf(event)
  setResponseHeaders(event, { 'cache-control': 'private, no-store', vary: 'Cookie' })
  if (!decider.asker.signedIn) return sendRedirect(event, `/sign-in?back=${wayBack(path)}`, 303)
  if (!isStaff(decider)) throw new Problem('not-allowed')
}
