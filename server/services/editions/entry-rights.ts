/** What staff need for a change of the rules: by the kind of entry, and for a publication by every kind it changes. */
import { coversRule } from '../../../core/staff/staff-rule'
import type { StaffRights } from '../../../core/staff/staff-rule'
import { entryKinds } from '../../../core/rulebook/rulebook'
import type { EntryKind, Rulebook, RuleEntry } from '../../../core/rulebook/rulebook'
import type { Level, Role } from '../../../core/rulebook/people-rules'
import type { AnyDb } from '../../db/database'
import { Problem } from '../../problem'
import { authorise } from '../staff/authorise'
import { staffKindOfEntry } from '../../../core/staff/entry-kind'
import { refuseHeldRole } from './checks'
import type { Turn } from './draft'
import type { Permit } from './entries'
import { readStaffRules } from '../staff/staff-rules'

/** For putting an entry into the draft, or taking it out. */
export const permitEntry =
  (rights: StaffRights): Permit =>
  async (turn, entry) => {
    const owned = staffKindOfEntry[entry.kind]
    const known = turn.draft.get(entry.kind, entry.key) !== undefined
    // Settings know no adding; what is new among them is a change.
    const action = entry.body === null ? 'withdraw' : known ? 'change' : 'add'
    authorise(rights, { kind: owned, action: owned.startsWith('settings-') ? 'change' : action })
    await refusePowers(turn, rights, entry)
  }

/** For making an entry of the draft again what it is live. Whoever may change it may undo it, but moves no power by that either. */
export const permitUndo =
  (rights: StaffRights, { kind, key }: { kind: EntryKind; key: string }) =>
  async (turn: Turn): Promise<void> => {
    authorise(rights, { kind: staffKindOfEntry[kind], action: 'change' })
    await refusePowers(turn, rights, { kind, key, body: turn.live.get(kind, key)?.body ?? null })
  }

/** Whatever somebody may change: nobody moves by it who may do more than they. */
async function refusePowers({ tx, draft }: Turn, rights: StaffRights, { kind, key, body }: RuleEntry): Promise<void> {
  // What has not the shape of its kind is refused for that, right after.
  if (body !== null && !entryKinds[kind].schema.safeParse(body).success) return
  const { book } = draft
  const keys = book.settings?.masterKeys
  if (kind === 'settings') refuseKeys(rights, keys, (body as { masterKeys?: string[] } | null)?.masterKeys)
  if (kind === 'role' && keys?.includes(key) && book.roles?.some(role => role.id === key))
    throw new Problem('master-role-fixed')
  if (kind === 'level') refuseStaffLevel(book, body as Level | null)
  if (kind === 'role') await refusePower(tx, rights, book, key, body as Role | null)
}

function refuseKeys(rights: StaffRights, before: readonly string[] = [], after: readonly string[] = []): void {
  if (before.length && !after.length) throw new Problem('no-master-role')
  if (!rights.masterKey && [...before].sort().join() !== [...after].sort().join())
    throw new Problem('only-key-names-keys')
}

/** Making a role a staff role, or none any more, moves power: only who holds as much does it. */
async function refusePower(
  tx: AnyDb,
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
    throw new Problem('role-above-yours')
}

/** A level is bought and given by the hundred: it brings no staff role. */
function refuseStaffLevel(book: Rulebook, level: Level | null): void {
  const staff = new Set((book.roles ?? []).filter(role => role.staff).map(role => role.id))
  const brought = (level?.roles ?? []).find(role => staff.has(role))
  if (brought)
    throw new Problem(
      'staff-role-with-level',
      { role: brought },
      {
        at: '/roles',
      },
    )
}
