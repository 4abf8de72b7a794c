import { cutWord } from '../../visitor/space/request-word'
import { region as code } from '../../shapes'
import { eachOf, isAmong, leaf } from './leaf'
import { inList } from './shapes'

export const region = leaf(inList(code), {
  looksAt: 'country',
  cut: cutWord('region'),
  ways: eachOf(one => ({ region: one })),
  test: ({ in: list }, { asker }) => isAmong(asker.request.region, list),
})
