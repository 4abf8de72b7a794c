import { weekday as day } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'
import { inList } from './shapes'

export const weekday = leaf(inList(day), {
  looksAt: 'clock',
  test: ({ in: list }, { asker }) => triOf(list.includes(asker.clock.weekday)),
})
