import { reference } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'
import { inList } from './shapes'

export const person = leaf(inList(reference), {
  looksAt: 'person',
  held: true,
  cut: ({ in: list }, space) => list.forEach(one => space.person(one)),
  test: ({ in: list }, { asker }) => triOf(asker.personId !== undefined && list.includes(asker.personId)),
})
