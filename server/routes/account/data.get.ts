import { defineEventHandler, setResponseHeaders } from 'h3'
import { kinds } from '../../../core/kinds/kinds'
import type { Kind } from '../../../core/kinds/kinds'
import { db } from '../../db/database'
import { personCaller } from '../../request/staff-caller'
import { ownData } from '../../services/people/own-data'

/** Everything kept about the person who asks, as JSON. */
export default defineEventHandler(async event => {
  const { signedIn, decider } = await personCaller(event)
  setResponseHeaders(event, {
    'cache-control': 'private, no-store',
    'content-disposition': 'attachment; filename="my-data.json"',
  })
  return ownData(
    db(),
    signedIn.personId,
    (kind, id) => (kinds as readonly string[]).includes(kind) && decider.decide({ kind: kind as Kind, id }).find,
  )
})
