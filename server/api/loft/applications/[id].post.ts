import { defineEventHandler, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { numberParam, readJson, staffCaller } from '../../../request'
import { decideApplication, decisionInput } from '../../../services/people/applications'

export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  await decideApplication(db(), worker, numberParam(event, 'id'), await readJson(event, decisionInput), worker.actor)
  return sendNoContent(event)
})
