import { clock } from '../../visitor/space/clock'
import { z } from 'zod'
import { minutesOf } from '../../calendar'
import { report, time as hour } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'

const hours = z.strictObject({ from: hour, until: hour }).check(sink => {
  const { from, until } = sink.value as { from: string; until: string }
  if (from === until) report(sink, 'ends-at-start', ['until'])
})

export const time = leaf(hours, {
  looksAt: 'clock',
  cut: ({ from, until }, space) => {
    const noted = space.on(clock)
    noted.isUsed = true
    noted.minutes.add(minutesOf(from)).add(minutesOf(until))
  },
  ways: ({ from, until }, { wanted }) => [[{ time: wanted ? from : until }]],
  test: ({ from, until }, { asker }) => {
    const [start, end, now] = [minutesOf(from), minutesOf(until), asker.clock.minutes]
    return triOf(start < end ? start <= now && now < end : start <= now || now < end)
  },
})
