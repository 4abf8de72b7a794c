import { defineEventHandler, setResponseHeader } from 'h3'
import { db } from '../../../db/database'
import { parseWith } from '../../../parse-with'
import { readQueryJson, staffCaller } from '../../../request'
import { listPeople, peopleQuery } from '../../../services/people/people'

/** People by name, a page at a time; `q` is a query in JSON. */
export default defineEventHandler(async event => {
  const { snapshot, nowMs } = await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return listPeople(db(), parseWith(peopleQuery, readQueryJson(event)), { rules: snapshot.rules, nowMs })
})
