import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { changeFirm, firmChange } from '../../../services/people/firms'

export default defineEventHandler(async (event) => {
  const { actor, snapshot } = await staffCaller(event)
  await changeFirm(db(), snapshot.rules.rulebook, getRouterParam(event, 'id') ?? '', await readJson(event, firmChange), actor)
  return sendNoContent(event)
})
