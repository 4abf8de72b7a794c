import { reference } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'
import { inList } from './shapes'

export const firm = leaf(inList(reference), {
  looksAt: 'person',
  held: true,
  test: ({ in: list }, { asker }) => triOf(asker.firm !== undefined && list.includes(asker.firm)),
})
