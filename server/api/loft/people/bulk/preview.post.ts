import { defineEventHandler } from 'h3'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { bulkInput, previewBulk } from '../../../../services/people/bulk'

export default defineEventHandler(async (event) => {
  const { snapshot, nowMs } = await staffCaller(event)
  return previewBulk(db(), { rules: snapshot.rules, nowMs }, await readJson(event, bulkInput))
})
