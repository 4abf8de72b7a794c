/** When somebody asks: days from today on, and hours of the day, as the site's clock tells them. */
import { localInstant, localTime, timeOf } from '../../calendar'
import { withRequest } from '../visitor'
import type { Dimension } from './dimension'
import { plusDays } from './pieces'
import type { Piece } from './pieces'

interface Noted {
  isUsed: boolean
  /** Days on which something begins to be so or not. */
  days: Set<string>
  /** Minutes of the day at which. */
  minutes: Set<number>
  weekday: boolean
}

export const clock: Dimension<Noted> = {
  start: () => ({ isUsed: false, days: new Set(), minutes: new Set(), weekday: false }),
  pieces: ({ isUsed, days: noted, minutes: hours, weekday }, { holdings, nowMs }) => {
    if (!isUsed) return [[visitor => withRequest(visitor, { at: new Date(nowMs).toISOString() })]]
    const { timezone } = holdings
    const today = localTime(nowMs, timezone).date
    const cuts = [today, ...[...noted].filter(day => day > today).sort()]
    const days = cuts.flatMap((day, i) => {
      const end = cuts[i + 1]
      return Array.from({ length: weekday ? 7 : 1 }, (_, n) => plusDays(day, n)).filter(
        one => end === undefined || one < end,
      )
    })
    const minutes = [...new Set([0, ...hours])].sort((a, b) => a - b)
    return [
      days.flatMap(day =>
        minutes.map((minute): Piece => {
          const at = localInstant(day, timeOf(minute), timezone)
          return visitor => withRequest(visitor, { at: new Date(at).toISOString() })
        }),
      ),
    ]
  },
}
