import { defineEventHandler, setResponseHeader } from 'h3'
import { callerOf } from '../request/caller'

export default defineEventHandler(async event => {
  const { signedIn } = await callerOf(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return { person: signedIn ? { id: signedIn.personId, name: signedIn.visitor.person?.name ?? '' } : null }
})
