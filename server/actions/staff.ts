/** Actions on what staff roles may do. */
import { afterCommit } from '../db/turn'
import { z } from 'zod'
import { staffRule } from '../../core/staff/staff-rule'
import { reload } from '../services/live/snapshot'
import { writeStaffRules } from '../services/staff/staff-rules'
import { savedAnswer } from '../services/editions/saved-answer'
import { copyStaffRole, staffRoleCopy } from '../services/editions/copy-staff-role'
import { change, look, made, on } from './action'

export const staffActions = {
  'GET staff': look({ right: on('staff', 'look'), run: ({ snapshot }) => ({ rules: snapshot.staffRules }) }),
  'PUT staff/:role': change({
    right: on('staff', 'change'),
    input: z.strictObject({ rules: z.array(staffRule).max(200) }),
    run: async ({ db, input, params, rights, actor }) => {
      await writeStaffRules(db, { role: params.role!, rules: input.rules, rights, actor })
      await afterCommit(reload)
    },
  }),
  /** A new staff role of the draft that may do what this one may. */
  'POST staff/:role/copy': change({
    right: on('staff', 'change'),
    input: staffRoleCopy,
    run: async ask => {
      const changed = await copyStaffRole(ask.db, ask, ask.params.role!, ask.input, ask.actor)
      await afterCommit(reload)
      return made(ask, await savedAnswer(ask, changed))
    },
  }),
}
