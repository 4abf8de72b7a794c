import { defineEventHandler, setResponseHeader, setResponseStatus } from 'h3'
import { readiness } from '../services/readiness'

/** Whether this server can answer now; 503 where it cannot. */
export default defineEventHandler(async event => {
  const answer = await readiness()
  setResponseHeader(event, 'cache-control', 'no-store')
  if (!answer.ready) setResponseStatus(event, 503)
  return answer
})
