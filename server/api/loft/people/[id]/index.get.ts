import { defineEventHandler, getRouterParam, setResponseHeader } from 'h3'
import { db } from '../../../../db/database'
import { staffCaller } from '../../../../request'
import { applicationsOf } from '../../../../services/people/applications'
import { mayStaff } from '../../../../../core/staff/staff-rule'
import { membershipsOf, purchasesOf } from '../../../../services/memberships/memberships'
import { listedPerson, notesOf } from '../../../../services/people/people'
import { agentName } from '../../../../services/entrance/agent-name'
import { sessionsOf } from '../../../../services/entrance/sessions'
import { visitorOf } from '../../../../services/people/visitor-of'

/** Everything staff may know of one person, and who they are to the rules. */
export default defineEventHandler(async event => {
  const { rights } = await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  const id = getRouterParam(event, 'id') ?? ''
  const looks = (kind: 'orders') => mayStaff(rights, { kind, action: 'look' }).allowed
  const [person, visitor, memberships, purchases, applications, sessions, notes] = await Promise.all([
    listedPerson(db(), id),
    visitorOf(db(), id),
    membershipsOf(db(), id),
    looks('orders') ? purchasesOf(db(), id) : [],
    applicationsOf(db(), id),
    sessionsOf(db(), id),
    notesOf(db(), id),
  ])
  // What was paid is told to who may look at orders.
  const shown = looks('orders') ? memberships : memberships.map(one => ({ ...one, paidAmount: null }))
  return {
    person,
    visitor,
    memberships: shown,
    purchases,
    applications,
    sessions: sessions.map(({ network: _network, ...one }) => ({ ...one, agent: agentName(one.agent) })),
    notes,
  }
})
