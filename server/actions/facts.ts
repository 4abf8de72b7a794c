/** Actions on facts that come from services. */
import { z } from 'zod'
import { fact } from '../../core/rulebook/people-rules'
import { Problem } from '../problem'
import { askService, knownServices } from '../services/facts/services'
import type { ServiceFact } from '../services/facts/services'
import { authorise } from '../services/staff/authorise'
import { look, on } from './action'

const known = z.string().max(320).optional()

export const factActions = {
  /** Services that facts may be asked of, by name. */
  'GET fact-services': look({
    right: on('settings-sign-up', 'look'),
    run: async () => ({ services: [...knownServices().keys()] }),
  }),
  /** Asks a service now, for somebody made up or real, as it would be asked for a visitor. */
  'POST fact-services/try': look({
    right: on('settings-sign-up', 'change'),
    input: z.strictObject({
      fact,
      known: z.strictObject({ person: known, email: known, firm: known, country: known, language: known }),
    }),
    run: async ({ input, rights }) => {
      // What it says of somebody is told to who may know such things of people.
      if (input.known.person ?? input.known.email)
        authorise(rights, { kind: 'people', action: 'look', fields: ['facts'] })
      const { from } = input.fact
      if (!from || !('service' in from)) throw new Problem('bad-input')
      return askService(input.fact as ServiceFact, input.known, true)
    },
  }),
}
