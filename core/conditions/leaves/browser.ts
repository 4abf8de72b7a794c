import { cutWord } from '../../visitor/space/request-word'
import { reference } from '../../shapes'
import { eachOf, isAmong, leaf } from './leaf'
import { inList } from './shapes'

export const browser = leaf(inList(reference), {
  looksAt: 'device',
  cut: cutWord('browser'),
  ways: eachOf(one => ({ browser: one })),
  test: ({ in: list }, { asker }) => isAmong(asker.request.browser, list),
})
