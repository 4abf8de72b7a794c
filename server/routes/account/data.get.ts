import { defineEventHandler, setResponseHeaders } from 'h3'
import { db } from '../../db/database'
import { personCaller } from '../../request'
import { ownData } from '../../services/people/people-csv'

/** Everything kept about the person who asks, as JSON. */
export default defineEventHandler(async (event) => {
  const { signedIn } = await personCaller(event)
  setResponseHeaders(event, { 'cache-control': 'private, no-store', 'content-disposition': 'attachment; filename="my-data.json"' })
  return ownData(db(), signedIn.personId)
})
