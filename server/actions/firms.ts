/** Actions on firms. */
import { addFirm, changeFirm, firmChange, firmInput, listFirms, removeFirm } from '../services/people/firms'
import { Problem } from '../problem'
import { seesPeople } from '../services/staff/people-seen'
import type { FirmView } from '../services/people/firms'
import type { StaffRights } from '../../core/staff/staff-rule'
import { change, look, made, on } from './action'

/** Who belongs to it, and what is said of it for them, is told to who may look at that of people. */
const seenFirm = (rights: StaffRights, firm: FirmView) => ({
  ...firm,
  people: seesPeople(rights, 'name', 'address') ? firm.people : [],
  count: firm.people.length,
  facts: seesPeople(rights, 'facts') ? firm.facts : {},
})

export const firmActions = {
  'GET firms': look({
    right: on('firms', 'look'),
    run: async ({ db, rights }) => {
      return (await listFirms(db)).map(firm => seenFirm(rights, firm))
    },
  }),
  'GET firms/:id': look({
    right: on('firms', 'look'),
    run: async ({ db, rights, params }) => {
      const [firm] = await listFirms(db, params.id)
      if (!firm) throw new Problem('not-found')
      return seenFirm(rights, firm)
    },
  }),
  'POST firms': change({
    right: on('firms', 'add'),
    input: firmInput,
    run: async ask => {
      await addFirm(ask.db, ask.input, ask.actor)
      return made(ask, { id: ask.input.id })
    },
  }),
  'PUT firms/:id': change({
    right: on('firms', 'change'),
    input: firmChange,
    run: async ask => void (await changeFirm(ask.db, ask, ask.params.id!, ask.input, ask.actor)),
  }),
  'DELETE firms/:id': change({
    right: on('firms', 'withdraw'),
    run: async ask => void (await removeFirm(ask.db, ask, ask.params.id!, ask.actor)),
  }),
}
