import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { formInput, saveForm } from '../../../services/people/applications'

export default defineEventHandler(async event => {
  const { actor } = await staffCaller(event)
  await saveForm(db(), getRouterParam(event, 'target', { decode: true }) ?? '', await readJson(event, formInput), actor)
  return sendNoContent(event)
})
