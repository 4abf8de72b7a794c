import { device as sort } from '../../shapes'
import { isAmong, leaf } from './leaf'
import { inList } from './shapes'

export const device = leaf(inList(sort), {
  looksAt: 'device',
  test: ({ in: list }, { asker }) => isAmong(asker.request.device, list),
})
