/** A page as whoever asks gets it. */
import { getQuery } from 'h3'
import type { H3Event } from 'h3'
import type { OwnShown } from '../../core/kinds/block'
import { searchAddress } from '../../core/site/own-addresses'
import { db } from '../db/database'
import { callerOf } from '../request/caller'
import { settled } from '../services/facts/settled'
import { assembleView } from '../services/pages/page-view'
import type { SentView, ViewAsk } from '../services/pages/page-view'
import { searchView } from '../services/pages/search-view'
import { askedIn, doneIn, spokenIn } from './asked'
import { letScript } from './noted'

/** `path`: of a thing of the site; or what the page is for, where it is one of the application's own. */
export async function visited(event: H3Event, shown: string | { own: OwnShown }): Promise<SentView> {
  const [path, own] = typeof shown === 'string' ? [shown, undefined] : [null, shown.own]
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
      own,
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
    decider.turnsOn('person')
  }
  return assembled
}
