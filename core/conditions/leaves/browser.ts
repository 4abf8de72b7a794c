import { reference } from '../../shapes'
import { eachOf, isAmong, leaf } from './leaf'
import { inList } from './shapes'

export const browser = leaf(inList(reference), {
  looksAt: 'device',
  cut: ({ in: list }, space) => list.forEach(one => space.request('browser', one)),
  ways: eachOf(one => ({ browser: one })),
  test: ({ in: list }, { asker }) => isAmong(asker.request.browser, list),
})
