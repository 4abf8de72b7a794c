/** Who asks, as somebody signed in, and as somebody of the staff; outside a transaction and inside one. */
import type { H3Event } from 'h3'
import { getCookie, getHeader } from 'h3'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { clockMs } from '../clock'
import type { AnyDb } from '../db/database'
import { Problem } from '../problem'
import { record } from '../services/activity/activity'
import { sessionCookie, sessionOf } from '../services/entrance/sessions'
import type { SignedIn } from '../services/entrance/sessions'
import { snapshot } from '../services/live/snapshot'
import { isStaff, rightsOf } from '../services/staff/authorise'
import { authoriseLookAsRole, powerOf } from '../services/staff/staff-grants'
import type { Actor } from '../trace'
import { callerOf, LiveCaller } from './caller'
import type { Caller } from './caller'

export interface StaffCaller extends Caller {
  actor: Actor
  signedIn: SignedIn
  /** The staff role the console is looked at as: with its rights alone, and nothing is done. */
  onlyAs?: string
}

/** The caller as somebody of the staff, noted for what they call; otherwise the request ends here. */
export async function staffCaller(event: H3Event, action: string): Promise<StaffCaller> {
  const caller = seenAs(event, await personCaller(event))
  if (event.method !== 'GET' && caller.onlyAs === undefined)
    record({
      kind: 'staff',
      personId: caller.signedIn.personId,
      tier: 'staff',
      subjectKind: 'route',
      subjectId: action.replace(' ', ' /api/loft/'),
    })
  return caller
}

/** The same caller as they are inside a transaction: who was let go meanwhile ends here. */
export async function staffCallerIn(tx: AnyDb, event: H3Event): Promise<StaffCaller> {
  const token = getCookie(event, sessionCookie)
  const signedIn = token ? await sessionOf(tx, token) : null
  if (!signedIn) throw new Problem('sign-in-needed')
  const nowMs = clockMs()
  const current = await snapshot()
  const { visitor, decider, rights } = new LiveCaller(event, current, signedIn, nowMs)
  return seenAs(event, { snapshot: current, signedIn, visitor, decider, rights, nowMs, actor: actorOf(signedIn) })
}

/** Names a staff role the console is to be answered as. It only ever narrows what the caller may do. */
const asRoleHeader = 'bravik-as-role'

/** The caller as staff, or, where they ask so, as somebody who holds one staff role and nothing else. */
function seenAs(event: H3Event, caller: StaffCaller): StaffCaller {
  if (!isStaff(caller.decider)) throw new Problem('not-allowed')
  const role = getHeader(event, asRoleHeader)
  if (role === undefined) return caller
  const { snapshot: current, decider, nowMs } = caller
  authoriseLookAsRole(caller.rights, powerOf(current), role)
  const { person, request } = decider.visitor
  const as = new CompiledDecider(
    current.rules,
    { ...(person ? { person } : {}), roles: [role], ...(request ? { request } : {}) },
    nowMs,
  )
  return { ...caller, visitor: as.visitor, decider: as, rights: rightsOf(as, current.staffRules), onlyAs: role }
}

const actorOf = ({ personId, visitor }: SignedIn): Actor => ({ id: personId, name: visitor.person?.name ?? personId })

/** The caller as somebody signed in; otherwise the request ends here. */
export async function personCaller(event: H3Event): Promise<StaffCaller> {
  const caller = await callerOf(event)
  const { signedIn } = caller
  if (!signedIn) throw new Problem('sign-in-needed')
  const { snapshot: current, visitor, decider, rights, nowMs } = caller
  return { snapshot: current, signedIn, visitor, decider, rights, nowMs, actor: actorOf(signedIn) }
}
