import { weekday as day } from '../../shapes'
import { triOf } from '../../tri'
import { eachOf, leaf } from './leaf'
import { inList } from './shapes'

export const weekday = leaf(inList(day), {
  looksAt: 'clock',
  cut: (_, space) => space.weekday(),
  ways: eachOf(weekday => ({ weekday })),
  test: ({ in: list }, { asker }) => triOf(list.includes(asker.clock.weekday)),
})
