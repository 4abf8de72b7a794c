import { defineEventHandler, setResponseStatus } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { authorise } from '../../../services/staff/authorise'
import { staffKindOfBlock } from '../../../../core/staff/block-kind'
import { blockInput, saveBlock } from '../../../services/pages/content'

export default defineEventHandler(async (event) => {
  const { actor, rights } = await staffCaller(event)
  const input = await readJson(event, blockInput)
  authorise(rights, { kind: staffKindOfBlock[input.kind], action: 'add' })
  await saveBlock(db(), input, actor, true)
  setResponseStatus(event, 201)
  return { id: input.id }
})
