import { reference } from '../../shapes'
import { isAmong, leaf } from './leaf'
import { inList } from './shapes'

export const browser = leaf(inList(reference), {
  looksAt: 'device',
  test: ({ in: list }, { asker }) => isAmong(asker.request.browser, list),
})
