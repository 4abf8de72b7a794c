/** A staff role made after another: a role of the draft, with the sentences of the one it is like. */
import { z } from 'zod'
import { idPattern } from '../../../core/shapes'
import type { Role } from '../../../core/rulebook/people-rules'
import type { AnyDb } from '../../db/database'
import { Problem } from '../../problem'
import type { Actor } from '../../trace'
import { changeDraft } from './draft'
import type { Changed } from './draft'
import { permitEntry } from './entry-rights'
import type { Worker } from '../live/worker'
import { putStaffRules, readStaffRules } from '../staff/staff-rules'

export const staffRoleCopy = z.strictObject({
  id: z.string().regex(idPattern, 'Small letters, digits and dashes.').max(80),
  name: z.string().trim().min(1, 'A name is needed.').max(200),
})

/** What the copy may do holds from the edition that makes it a role, and for whoever is given it then. */
export async function copyStaffRole(
  db: AnyDb,
  { rights }: Worker,
  of: string,
  { id, name }: z.infer<typeof staffRoleCopy>,
  actor: Actor,
): Promise<Changed> {
  return changeDraft(db, actor, async turn => {
    const { book } = turn.draft
    const role = book.roles?.find(one => one.id === of)
    if (!role?.staff) throw new Problem('no-staff-role', { role: of }, { at: '/role' })
    if (book.settings?.masterKeys?.includes(of)) throw new Problem('master-key-fixed')
    if (turn.draft.get('role', id) || turn.live.get('role', id))
      throw new Problem('role-id-taken', { id }, { at: '/id' })
    const rules = (await readStaffRules(turn.tx)).filter(rule => rule.role === of)
    await putStaffRules(
      turn.tx,
      id,
      rules.map(rule => ({ ...rule, role: id })),
      rights,
    )
    const body: Role = { ...role, id, name }
    await permitEntry(rights)(turn, { kind: 'role', key: id, body })
    return {
      puts: [{ kind: 'role', key: id, body }],
      action: 'staff.copy',
      subject: `role ${id}`,
      detail: { of, rules },
    }
  })
}
