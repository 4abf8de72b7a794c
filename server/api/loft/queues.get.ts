import { defineEventHandler, setResponseHeader } from 'h3'
import { db } from '../../db/database'
import { staffCaller } from '../../request'
import { waitingApplications } from '../../services/people/applications'
import { listPeople } from '../../services/people/people'

/** Who waits to be looked at. */
export default defineEventHandler(async event => {
  const { snapshot, nowMs } = await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  const world = { rules: snapshot.rules, nowMs }
  const [signUps, unconfirmed, applications] = await Promise.all([
    listPeople(db(), { standing: 'waiting' }, world),
    listPeople(db(), { standing: 'unconfirmed' }, world),
    waitingApplications(db()),
  ])
  return { signUps: signUps.people, unconfirmed: unconfirmed.count, applications }
})
