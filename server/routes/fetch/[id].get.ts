import {
  defineEventHandler,
  getRequestURL,
  getRouterParam,
  removeResponseHeader,
  sendRedirect,
  setResponseHeaders,
} from 'h3'
import { fetchAddress } from '../../../core/files/stored-file'
import { countFetched, fetching, sendFetched } from '../../fetching'
import { Problem } from '../../problem'
import { headerOfFact } from '../../request/facts'
import { linkToken, mostADay } from '../../services/files/fetches'
import { keepingFor } from '../../services/pages/page-view'

const mostOfQuery = 1000

/** A download's file: to whoever it is open at once, to somebody by a link of their own. */
export default defineEventHandler(async event => {
  const id = getRouterParam(event, 'id', { decode: true }) ?? ''
  const found = await fetching(event, id)
  const { caller, decider, facts, fetched } = found
  const { signedIn, snapshot } = caller
  const isForAll = !facts.has('person')
  const most = mostADay(decider, snapshot.settings.files)
  await countFetched(event, found, id)
  // Whoever only looks is told of the file, and given no link to it.
  if (signedIn && !(isForAll && most === undefined) && !event.context.headOnly) {
    const token = linkToken(id, signedIn.sessionId)
    // It goes into a header, which proxies take some kilobytes of; what gates ask of a query is shorter.
    const search = getRequestURL(event).search.slice(0, mostOfQuery + 1)
    if (search.length > mostOfQuery) throw new Problem('bad-path')
    return sendRedirect(event, `${fetchAddress(id)}/${token}/${encodeURIComponent(fetched.fileName)}${search}`, 302)
  }
  if (isForAll && snapshot.settings.files.perDay.guest === undefined) {
    removeResponseHeader(event, 'vary')
    setResponseHeaders(event, keepingFor(facts, headerOfFact()))
  } else setResponseHeaders(event, { 'cache-control': 'private, no-cache', vary: 'Cookie' })
  return sendFetched(event, found, id)
})
