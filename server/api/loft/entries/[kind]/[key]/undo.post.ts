import { defineEventHandler, sendNoContent } from 'h3'
import { db } from '../../../../../db/database'
import { staffCaller } from '../../../../../request'
import { entryPlace } from '../../../../../services/rules/entry-address'
import { permitUndo } from '../../../../../services/rules/entry-rights'
import { undoEntry } from '../../../../../services/rules/rulebook-store'

export default defineEventHandler(async event => {
  const { actor, rights } = await staffCaller(event)
  await undoEntry(db(), { ...entryPlace(event), actor, permit: permitUndo(rights) })
  return sendNoContent(event)
})
