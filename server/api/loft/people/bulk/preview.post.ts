import { defineEventHandler } from 'h3'
import { db } from '../../../../db/database'
import { readJson, staffCaller } from '../../../../request'
import { bulkInput, previewBulk } from '../../../../services/people/bulk'
import { authorise } from '../../../../services/staff/authorise'

export default defineEventHandler(async event => {
  const { rights, snapshot, nowMs } = await staffCaller(event)
  // Whom a question fits is told, by name and number, to who may look at people.
  authorise(rights, { kind: 'people', action: 'look' })
  return previewBulk(db(), { rules: snapshot.rules, nowMs }, await readJson(event, bulkInput))
})
