import { region as code } from '../../shapes'
import { isAmong, leaf } from './leaf'
import { inList } from './shapes'

export const region = leaf(inList(code), {
  looksAt: 'country',
  test: ({ in: list }, { asker }) => isAmong(asker.request.region, list),
})
