import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { formInput, saveForm } from '../../../services/people/applications'

export default defineEventHandler(async (event) => {
  const { actor, snapshot } = await staffCaller(event)
  await saveForm(db(), snapshot.rules.rulebook, getRouterParam(event, 'target', { decode: true }) ?? '', await readJson(event, formInput), actor)
  return sendNoContent(event)
})
