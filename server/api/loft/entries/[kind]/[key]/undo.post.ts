import { defineEventHandler, sendNoContent } from 'h3'
import { db } from '../../../../../db/database'
import { staffCaller } from '../../../../../request'
import { authorise } from '../../../../../services/authorise'
import { staffKindOfEntry } from '../../../../../../core/staff/entry-kind'
import { entryPlace } from '../../../../../services/entry-address'
import { undoEntry } from '../../../../../services/rulebook-store'

export default defineEventHandler(async (event) => {
  const { actor, rights } = await staffCaller(event)
  const { kind, key } = entryPlace(event)
  authorise(rights, { kind: staffKindOfEntry[kind], action: 'change' })
  await undoEntry(db(), kind, key, actor)
  return sendNoContent(event)
})
