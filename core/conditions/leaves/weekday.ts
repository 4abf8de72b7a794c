import { clock } from '../../visitor/space/clock'
import { weekday as day } from '../../shapes'
import { triOf } from '../../tri'
import { eachOf, leaf } from './leaf'
import { inList } from './shapes'

export const weekday = leaf(inList(day), {
  looksAt: 'clock',
  cut: (_, space) => {
    const noted = space.on(clock)
    noted.isUsed = noted.weekday = true
  },
  ways: eachOf(weekday => ({ weekday })),
  test: ({ in: list }, { asker }) => triOf(list.includes(asker.clock.weekday)),
})
