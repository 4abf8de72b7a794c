/** What an answer says and leaves besides its body: which scripts may run, and that it was looked at. */
import { setResponseHeader } from 'h3'
import type { H3Event } from 'h3'
import type { PageView } from '../../core/view/view'
import { contentPolicy } from '../content-policy'
import { recordVisit } from '../services/activity/visits'
import type { SentView } from '../services/pages/page-view'

/** Searching while one types, and counting and choosing while one buys, take scripts, the only ones of the site. */
export function letScript(event: H3Event, ancestors?: string): void {
  const policy = contentPolicy({ scripts: "'self'", styles: "'unsafe-inline'", ...(ancestors ? { ancestors } : {}) })
  setResponseHeader(event, 'content-security-policy', policy)
}

/** Views and refusals go into the activity; walks are the keeper's, not the visitor's. */
export function noteVisit(
  event: H3Event,
  { view, thing, refused }: Pick<SentView, 'thing' | 'refused'> & { view: Pick<PageView, 'walked'> },
): void {
  if (!thing || view.walked || event.method !== 'GET') return
  recordVisit(refused ? 'refused' : 'view', thing, event.context.caller!)
}
