import { oneOfNamed } from '../../visitor/space/dimension'
import { reference } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'
import { inList } from './shapes'

const named = oneOfNamed((visitor, id) => ({ ...visitor, person: { id } }))

export const person = leaf(inList(reference), {
  looksAt: 'person',
  held: true,
  cut: ({ in: list }, space) => list.forEach(one => space.on(named).add(one)),
  ways: null,
  test: ({ in: list }, { asker }) => triOf(asker.personId !== undefined && list.includes(asker.personId)),
})
