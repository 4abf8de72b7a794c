import { reference } from '../../shapes'
import { eachOf, isAmong, leaf } from './leaf'
import { inList } from './shapes'

export const browser = leaf(inList(reference), {
  looksAt: 'device',
  ways: eachOf(one => ({ browser: one })),
  test: ({ in: list }, { asker }) => isAmong(asker.request.browser, list),
})
