import { isEntryKind } from '~~/core/editions/contents'
import type { VersionedKind } from '~~/core/editions/contents'
import type { Kept } from '~~/core/kinds/kinds'
import { kindNames } from '~~/core/sentences/words'
import { appKindOf } from '~/kinds/kinds'
import type { Loft } from '~/loft/core/place'

/** What was done, by the last part of the action; what is not here is said as it is written. */
const verbs: Record<string, string> = {
  add: 'added',
  change: 'changed',
  move: 'moved',
  remove: 'removed',
  copy: 'copied',
  assign: 'handed on',
  undo: 'took back the change of',
  'bring-back': 'brought back',
  'roll-back': 'went back to',
  publish: 'published',
  plan: 'planned',
  'plan-withdraw': 'took back',
  'plan-refused': 'was refused',
  start: 'signed in',
  'end-sessions': 'signed out',
  'sign-up': 'signed up as',
  confirm: 'confirmed the address of',
  approve: 'let in',
  decline: 'declined',
  accept: 'accepted',
  invite: 'invited to',
  revoke: 'took back',
  join: 'joined',
  leave: 'left',
  note: 'noted something about',
  take: 'took something from',
  'give-level': 'gave a level to',
  'give-role': 'gave a role to',
  'change-password': 'changed the password of',
  'change-address': 'changed the address of',
  'reset-password': 'chose a new password for',
  bulk: 'changed together',
  'bulk-undo': 'undid',
  import: 'imported',
  export: 'exported',
  make: 'made codes for',
  stop: 'stopped codes of',
  use: 'noted a code as used for',
  refund: 'gave the money back for',
  begin: 'began',
  place: 'placed',
  'give-up': 'gave up',
  paid: 'took the payment of',
  declined: 'declined the payment of',
  refunded: 'gave the money back for',
  gift: 'took the gift of',
  send: 'sent',
  form: 'changed the form of',
  text: 'worded',
  again: 'sent again',
  'look-as': 'looked at the site as',
}

export const traceVerb = (action: string): string => {
  const last = action.slice(action.lastIndexOf('.') + 1)
  return verbs[last] ?? `${last.replaceAll('-', ' ')}:`
}

/** What it was done to: in words, and where it can be looked at. */
export function traceSubject(subject: string, loft: Loft, name?: string | null): { words: string; to?: string } {
  const space = subject.indexOf(' ')
  const [kind, id] = space < 0 ? [subject, ''] : [subject.slice(0, space), subject.slice(space + 1)]
  if (kind === 'person') return { words: name ?? `person ${id}`, to: `/loft/people/${encodeURIComponent(id)}` }
  if (kind === 'firm')
    return { words: `firm ${name ? `“${name}”` : id}`, to: `/loft/groups/firm/${encodeURIComponent(id)}` }
  const body = loft.contents.get(kind as VersionedKind, id)?.body as Record<string, unknown> | undefined
  const title = body && (isEntryKind(kind) ? body.name : appKindOf(kind).title(body))
  const of = Object.hasOwn(kindNames, kind) ? kindNames[kind as Kept] : kind
  return { words: `${of} ${title ? `“${title}”` : id}`.trim() }
}
