/** What staff need for a change of the rules: by the kind of entry, and for a publication by every kind it changes. */
import { coversRule } from '../../../core/staff/staff-rule'
import type { StaffRights } from '../../../core/staff/staff-rule'
import { entryKinds } from '../../../core/rulebook/rulebook'
import type { Rulebook, RuleEntry } from '../../../core/rulebook/rulebook'
import type { Level, Role } from '../../../core/rulebook/people-rules'
import type { Tx } from '../../db/database'
import { Problem } from '../../problem'
import { authorise } from '../staff/authorise'
import { staffKindOfEntry } from '../../../core/staff/entry-kind'
import { bookOf, draftChanges, refuseHeldRole } from './rulebook-store'
import type { Permit, StoredEntry } from './rulebook-store'
import { readStaffRules } from '../staff/staff-rules'

/** For putting an entry into the draft, or taking it out. */
export const permitEntry =
  (rights: StaffRights): Permit =>
  async (tx, draft, entry) => {
    const owned = staffKindOfEntry[entry.kind]
    const known = draft.some(one => one.kind === entry.kind && one.key === entry.key && one.body !== null)
    // Settings know no adding; what is new among them is a change.
    const action = entry.body === null ? 'withdraw' : known ? 'change' : 'add'
    authorise(rights, { kind: owned, action: owned.startsWith('settings-') ? 'change' : action })
    await refusePowers(tx, rights, draft, entry)
  }

/** For making an entry of the draft again what it is live. Whoever may change it may undo it, but moves no power by that either. */
export const permitUndo =
  (rights: StaffRights): Permit =>
  async (tx, draft, entry) => {
    authorise(rights, { kind: staffKindOfEntry[entry.kind], action: 'change' })
    await refusePowers(tx, rights, draft, entry)
  }

/** Whatever somebody may change: nobody moves by it who may do more than they. */
async function refusePowers(
  tx: Tx,
  rights: StaffRights,
  draft: readonly StoredEntry[],
  { kind, key, body }: RuleEntry,
): Promise<void> {
  // What has not the shape of its kind is refused for that, right after.
  if (body !== null && !entryKinds[kind].schema.safeParse(body).success) return
  const book = bookOf(draft)
  const keys = book.settings?.masterKeys
  if (kind === 'settings') refuseKeys(rights, keys, (body as { masterKeys?: string[] } | null)?.masterKeys)
  if (kind === 'role' && keys?.includes(key) && book.roles?.some(role => role.id === key))
    throw new Problem('in-use', 'This role holds the master key: it can be read, and is fixed.')
  if (kind === 'level') refuseStaffLevel(book, body as Level | null)
  if (kind === 'role') await refusePower(tx, rights, book, key, body as Role | null)
}

function refuseKeys(rights: StaffRights, before: readonly string[] = [], after: readonly string[] = []): void {
  if (before.length && !after.length)
    throw new Problem('in-use', 'Some role holds the master key, or nobody could keep the site.')
  if (!rights.masterKey && [...before].sort().join() !== [...after].sort().join())
    throw new Problem('not-allowed', 'Only the master key says which roles hold it.')
}

/** Making a role a staff role, or none any more, moves power: only who holds as much does it. */
async function refusePower(
  tx: Tx,
  rights: StaffRights,
  book: Rulebook,
  key: string,
  after: Role | null,
): Promise<void> {
  const before = book.roles?.find(role => role.id === key)
  if ((before?.staff ?? false) === (after?.staff ?? false)) return
  authorise(rights, { kind: 'staff', action: 'change' })
  if (after?.staff) await refuseHeldRole(tx, book, key)
  if ((await readStaffRules(tx)).some(rule => rule.role === key && !coversRule(rights, rule)))
    throw new Problem('not-allowed', 'This role may do more than you may.')
}

/** A level is bought and given by the hundred: it brings no staff role. */
function refuseStaffLevel(book: Rulebook, level: Level | null): void {
  const staff = new Set((book.roles ?? []).filter(role => role.staff).map(role => role.id))
  const brought = (level?.roles ?? []).find(role => staff.has(role))
  if (brought)
    throw new Problem('bad-input', `“${brought}” is a staff role: it goes to people by name, never with a level.`, {
      at: '/roles',
    })
}

/** An edition is published whole, so every kind it changes must be one the person publishes. */
export async function authorisePublish(tx: Tx, rights: StaffRights): Promise<void> {
  for (const kind of new Set((await draftChanges(tx)).map(change => staffKindOfEntry[change.kind])))
    authorise(rights, { kind, action: kind.startsWith('settings-') ? 'change' : 'publish' })
}
