/** Actions on firms. */
import { addFirm, changeFirm, firmChange, firmInput, listFirms, removeFirm } from '../services/people/firms'
import { Problem } from '../problem'
import { seesPeople } from '../services/staff/people-seen'
import { change, look, made, on } from './action'

export const firmActions = {
  'GET firms': look({
    right: on('firms', 'look'),
    run: async ({ db, rights }) => {
      const firms = await listFirms(db)
      // Who belongs to it is told to who may look at people.
      return seesPeople(rights, 'name', 'address')
        ? firms
        : firms.map(({ people, ...firm }) => ({ ...firm, people: [], count: people.length }))
    },
  }),
  'GET firms/:id': look({
    right: on('firms', 'look'),
    run: async ({ db, rights, params }) => {
      const [firm] = await listFirms(db, params.id)
      if (!firm) throw new Problem('not-found')
      const sees = seesPeople(rights, 'name', 'address')
      return { ...firm, people: sees ? firm.people : [], count: firm.people.length }
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
