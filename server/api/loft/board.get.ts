import { defineEventHandler, setResponseHeader } from 'h3'
import { db } from '../../db/database'
import { staffCaller } from '../../request'
import { readBoard } from '../../services/rules/board'

/** What the console starts from: site, live and draft rules, what changed, as far as the person may look. */
export default defineEventHandler(async event => {
  const caller = await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return readBoard(db(), caller.decider, caller, caller.actor)
})
