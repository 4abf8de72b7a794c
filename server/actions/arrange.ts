/** Actions on arrangements. */
import { arrangeAsk } from '../../core/arrange/arrangement'
import { staffKindIds } from '../../core/staff/staff-kinds'
import { arranged } from '../services/arrange/arranger'
import { look, oneOf } from './action'

const partKinds = staffKindIds.filter(kind => kind.startsWith('blocks-'))

export const arrangeActions = {
  /** Three arrangements of words that are given with a brief; nothing is kept. */
  'POST arrangements': look({
    right: oneOf(partKinds, 'add'),
    input: arrangeAsk,
    run: async ({ input }) => ({ arrangements: await arranged(input) }),
  }),
}
