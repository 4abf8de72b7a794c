import { clock } from '../../visitor/space/clock'
import { nextDay } from '../../visitor/space/pieces'
import { z } from 'zod'
import { date as day, report } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'

const range = z.strictObject({ from: day.optional(), until: day.optional() }).check(sink => {
  const { from, until } = sink.value as { from?: unknown; until?: unknown }
  if (from === undefined && until === undefined) report(sink, 'one-key', [], 'From, until or both.')
  if (typeof from === 'string' && typeof until === 'string' && from > until)
    report(sink, 'ends-before-start', ['until'])
})

export const date = leaf(range, {
  looksAt: 'clock',
  cut: ({ from, until }, space) => {
    const noted = space.on(clock)
    noted.isUsed = true
    if (from !== undefined) noted.days.add(from)
    if (until !== undefined) noted.days.add(nextDay(until))
  },
  // Only what is to come: nobody comes by a day that has passed.
  ways: ({ from, until }, { asker, wanted }) => {
    const day = wanted ? from : until && nextDay(until)
    return day !== undefined && day > asker.clock.date ? [[{ date: day }]] : []
  },
  test: ({ from, until }, { asker }) => {
    const today = asker.clock.date
    return triOf((from === undefined || from <= today) && (until === undefined || today <= until))
  },
})
