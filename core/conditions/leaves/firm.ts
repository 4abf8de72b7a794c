import { oneOfNamed } from '../../visitor/space/dimension'
import { reference } from '../../shapes'
import { triOf } from '../../tri'
import { eachOf, leaf } from './leaf'
import { inList } from './shapes'

const named = oneOfNamed((visitor, firm) => ({ ...visitor, firm }))

export const firm = leaf(inList(reference), {
  looksAt: 'person',
  held: true,
  cut: ({ in: list }, space) => list.forEach(one => space.on(named).add(one)),
  ways: eachOf(one => ({ firm: one })),
  test: ({ in: list }, { asker }) => triOf(asker.firm !== undefined && list.includes(asker.firm)),
})
