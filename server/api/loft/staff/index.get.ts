import { defineEventHandler, setResponseHeader } from 'h3'
import { staffCaller } from '../../../request'

/** What every staff role may do. */
export default defineEventHandler(async event => {
  const { snapshot } = await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return { rules: snapshot.staffRules }
})
