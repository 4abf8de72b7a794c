import { defineEventHandler, getRouterParams, setResponseHeaders } from 'h3'
import { countFetched, fetching, sendFetched } from '../../../../fetching'
import { callerOf } from '../../../../request/caller'
import { checkLink } from '../../../../services/files/fetches'

/** The same by a link made for one signed-in browser: passed on, or later, it is good for nothing. */
export default defineEventHandler(async event => {
  const { id = '', token = '' } = getRouterParams(event, { decode: true })
  const { signedIn } = await callerOf(event)
  setResponseHeaders(event, { 'cache-control': 'private, no-store', vary: 'Cookie' })
  checkLink(token, id, signedIn?.sessionId)
  const found = await fetching(event, id)
  await countFetched(event, found, id)
  setResponseHeaders(event, { 'cache-control': 'private, no-cache', vary: 'Cookie' })
  return sendFetched(event, found, id)
})
