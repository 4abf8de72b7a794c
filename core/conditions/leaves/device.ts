import { cutWord } from '../../visitor/space/request-word'
import { device as sort, devices } from '../../shapes'
import { isAmong, leaf } from './leaf'
import { inList } from './shapes'

export const device = leaf(inList(sort), {
  looksAt: 'device',
  cut: cutWord('device'),
  ways: ({ in: list }, { wanted }) =>
    devices.filter(one => list.includes(one) === wanted).map(one => [{ device: one }]),
  test: ({ in: list }, { asker }) => isAmong(asker.request.device, list),
})
