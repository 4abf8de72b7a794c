import { defineEventHandler, setResponseStatus } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { Problem } from '../../../problem'
import { weaknessOf } from '../../../services/entrance/password-strength'
import { addPerson, personInput } from '../../../services/people/people'

export default defineEventHandler(async event => {
  const { actor } = await staffCaller(event)
  const input = await readJson(event, personInput)
  const weakness = weaknessOf(input.password, [input.name, input.email])
  if (weakness) throw new Problem('bad-input', weakness, { at: '/password' })
  const id = await addPerson(db(), input, actor)
  setResponseStatus(event, 201)
  return { id }
})
