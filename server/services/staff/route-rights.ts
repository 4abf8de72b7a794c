/**
 * What each route of the console takes. A route without a line here answers
 * nobody. A list means one of them opens the door, and the route itself asks
 * for exactly what the request is about.
 */
import type { StaffAsk, StaffRights } from '../../../core/staff/staff-rule'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { StaffAction, StaffKindId } from '../../../core/staff/staff-kinds'
import { Problem } from '../../problem'
import { authorise } from './authorise'

/** `staff`: any staff role will do, and the answer holds only what its rights cover. */
export type RouteRight = 'staff' | StaffAsk | StaffAsk[]

const on = (kind: StaffKindId, action: StaffAction): StaffAsk => ({ kind, action })
const oneOf = (kinds: readonly StaffKindId[], ...actions: StaffAction[]): StaffAsk[] =>
  kinds.flatMap(kind => actions.map(action => on(kind, action)))

const ruleKinds = ['levels', 'roles', 'gates', 'offers', 'tax', 'landings', 'settings-sign-up'] as const
const blockKinds = ['blocks-text', 'blocks-picture', 'blocks-call', 'blocks-group', 'blocks-panel'] as const
const settingKinds = [
  'settings-site',
  'settings-sign-up',
  'settings-mail',
  'settings-activity',
  'settings-payment',
] as const

export const routeRights: Record<string, RouteRight> = {
  'GET /api/loft/board': 'staff',
  'GET /api/loft/editions': on('gates', 'look'),
  'POST /api/loft/publish': oneOf(ruleKinds, 'publish', 'change'),
  'POST /api/loft/walk': on('gates', 'look'),
  'PUT /api/loft/entries/:kind/:key': oneOf(ruleKinds, 'add', 'change'),
  'DELETE /api/loft/entries/:kind/:key': oneOf(ruleKinds, 'withdraw', 'change'),
  'POST /api/loft/entries/:kind/:key/undo': oneOf(ruleKinds, 'change'),
  'POST /api/loft/landings/order': on('landings', 'change'),
  'POST /api/loft/pages': on('pages', 'add'),
  'GET /api/loft/pages/:id': on('pages', 'look'),
  'PUT /api/loft/pages/:id': on('pages', 'change'),
  'DELETE /api/loft/pages/:id': on('pages', 'withdraw'),
  'POST /api/loft/blocks': oneOf(blockKinds, 'add'),
  'PUT /api/loft/blocks/:id': oneOf(blockKinds, 'change'),
  'POST /api/loft/blocks/:id/move': oneOf(blockKinds, 'change'),
  'DELETE /api/loft/blocks/:id': oneOf(blockKinds, 'withdraw'),
  'GET /api/loft/people': on('people', 'look'),
  'POST /api/loft/people': on('people', 'add'),
  'GET /api/loft/people/:id': on('people', 'look'),
  'PUT /api/loft/people/:id': on('people', 'change'),
  'DELETE /api/loft/people/:id': on('people', 'withdraw'),
  'POST /api/loft/people/:id/holdings': on('people', 'change'),
  'DELETE /api/loft/people/:id/holdings': on('people', 'change'),
  'POST /api/loft/people/:id/notes': { kind: 'people', action: 'change', fields: ['notes'] },
  'POST /api/loft/people/:id/decision': { kind: 'people', action: 'change', fields: ['standing'] },
  'DELETE /api/loft/people/:id/sessions': { kind: 'people', action: 'change', fields: ['standing'] },
  'POST /api/loft/people/invite': on('people', 'add'),
  'GET /api/loft/people/invitations': on('people', 'look'),
  'DELETE /api/loft/people/invitations/:id': on('people', 'change'),
  'GET /api/loft/people/bulk': on('people', 'look'),
  'POST /api/loft/people/bulk': on('people', 'change'),
  'POST /api/loft/people/bulk/preview': on('people', 'change'),
  'POST /api/loft/people/bulk/:id/undo': on('people', 'change'),
  'POST /api/loft/people/import': on('people', 'add'),
  'GET /api/loft/people/export': on('people', 'look'),
  'GET /api/loft/queues': on('people', 'look'),
  'GET /api/loft/forms': on('people', 'look'),
  'PUT /api/loft/forms/:target': on('roles', 'change'),
  'POST /api/loft/applications/:id': on('people', 'change'),
  'GET /api/loft/firms': on('firms', 'look'),
  'POST /api/loft/firms': on('firms', 'add'),
  'PUT /api/loft/firms/:id': on('firms', 'change'),
  'DELETE /api/loft/firms/:id': on('firms', 'withdraw'),
  'GET /api/loft/staff': on('staff', 'look'),
  'PUT /api/loft/staff/:role': on('staff', 'change'),
  'GET /api/loft/settings': oneOf(settingKinds, 'look'),
  'PUT /api/loft/settings/:group': oneOf(settingKinds, 'change'),
  'GET /api/loft/mail/outbox': on('settings-mail', 'look'),
  'POST /api/loft/mail/outbox/:id/again': on('settings-mail', 'change'),
  'POST /api/loft/mail/check': on('settings-mail', 'change'),
  'GET /api/loft/mail/texts': on('mail-texts', 'look'),
  'PUT /api/loft/mail/texts/:key': on('mail-texts', 'change'),
  'GET /api/loft/activity': on('activity', 'look'),
  'GET /api/loft/activity/list': on('activity', 'look'),
  'POST /api/loft/purchases/:reference/refund': on('orders', 'change'),
  'GET /api/loft/products': on('products', 'look'),
  'PUT /api/loft/products/:id': oneOf(['products', 'prices', 'stock', 'cost'], 'change'),
}

/** Throws `not-allowed` unless these rights open the route, such as `PUT /api/loft/pages/:id`. */
export function authoriseRoute(rights: StaffRights, route: string): void {
  const right = Object.hasOwn(routeRights, route) ? routeRights[route]! : undefined
  if (right === undefined) throw new Problem('not-allowed', 'Nothing says who may call this, so nobody may.')
  if (right === 'staff') return
  if (!Array.isArray(right)) return authorise(rights, right)
  if (!right.some(ask => mayStaff(rights, ask).allowed)) throw new Problem('not-allowed')
}
