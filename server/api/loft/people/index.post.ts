import { defineEventHandler, setResponseStatus } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { addPerson, personInput } from '../../../services/people/people'

export default defineEventHandler(async (event) => {
  const { actor } = await staffCaller(event)
  const id = await addPerson(db(), await readJson(event, personInput), actor)
  setResponseStatus(event, 201)
  return { id }
})
