import { cutWord } from '../../visitor/space/request-word'
import { country as code } from '../../shapes'
import { FALSE, TRUE, UNKNOWN } from '../../tri'
import { eachOf, isAmong, leaf } from './leaf'
import { inList } from './shapes'

export const country = leaf(inList(code), {
  looksAt: 'country',
  cut: cutWord('country'),
  ways: eachOf(one => ({ country: one })),
  test: ({ in: list }, { asker }) => isAmong(asker.request.country, list),
  prepare: ({ in: list }) => {
    const only = list[0]!
    if (list.length > 1) return ({ asker }) => isAmong(asker.request.country, list)
    return ({ asker }) =>
      asker.request.country === undefined ? UNKNOWN : asker.request.country === only ? TRUE : FALSE
  },
})
