import { defineEventHandler, getQuery } from 'h3'
import { db } from '../../../db/database'
import { readBytes, staffCaller } from '../../../request'
import { authoriseImport, decodeCsv, importPeople, planImport } from '../../../services/people/people-csv'

/** The body is the CSV file itself. `?dry=1` only looks: what would be taken over, and what is wrong where. */
export default defineEventHandler(async event => {
  const { actor, rights, snapshot } = await staffCaller(event)
  const book = snapshot.rules.rulebook
  const text = decodeCsv(await readBytes(event, 20 * 1_048_576))
  if (getQuery(event).dry === undefined) return { people: await importPeople(db(), rights, text, actor), problems: [] }
  const plan = await planImport(db(), book, text)
  authoriseImport(rights, plan.rows)
  return { people: plan.rows.length, problems: plan.problems.slice(0, 200), sample: plan.rows.slice(0, 5) }
})
