import { defineEventHandler, setResponseHeaders } from 'h3'
import { db } from '../../../db/database'
import { staffCaller } from '../../../request'
import { exportPeople } from '../../../services/people/people-csv'
import { leaveTrace } from '../../../services/trace'

export default defineEventHandler(async event => {
  const { actor, snapshot } = await staffCaller(event)
  setResponseHeaders(event, {
    'cache-control': 'private, no-store',
    'content-type': 'text/csv;charset=utf-8',
    'content-disposition': 'attachment; filename="people.csv"',
  })
  await leaveTrace(db(), actor, 'people.export', 'people')
  return exportPeople(db(), snapshot.rules.rulebook)
})
