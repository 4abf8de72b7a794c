/** What an answer says and leaves besides its body: which scripts may run, and that it was looked at. */
import { setResponseHeader } from 'h3'
import type { H3Event } from 'h3'
import type { PageView } from '../../core/view/view'
import { contentPolicy } from '../content-policy'
import { recordVisit } from '../services/activity/visits'
import type { SentView } from '../services/pages/page-view'

/** Searching while one types, and counting and choosing while one buys, take scripts, the only ones of the site. */
export function letScript(event: H3Event, ancestors?: string): void {
  setPolicy(event, { scripts: "'self'", ...(ancestors ? { ancestors } : {}) })
}

/** Whoever signs in or out may be led to another host, which a browser takes for where the form goes. */
export function letLead(event: H3Event): void {
  if (hostsOf(event).length) setPolicy(event)
}

const hostsOf = ({ context: { caller } }: H3Event) => caller?.snapshot.rules.rulebook.settings?.leadsTo ?? []

const setPolicy = (event: H3Event, more: Parameters<typeof contentPolicy>[0] = {}) =>
  setResponseHeader(
    event,
    'content-security-policy',
    contentPolicy({ styles: "'unsafe-inline'", leadsTo: hostsOf(event), ...more }),
  )

/** Views and refusals go into the activity; walks are the keeper's, not the visitor's. */
export function noteVisit(
  event: H3Event,
  { view, thing, refused }: Pick<SentView, 'thing' | 'refused'> & { view: Pick<PageView, 'walked'> },
): void {
  if (!thing || view.walked || event.method !== 'GET') return
  recordVisit(refused ? 'refused' : 'view', thing, event.context.caller!)
}
