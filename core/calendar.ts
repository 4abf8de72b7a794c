/**
 * The local calendar of a site: what an instant reads on its wall clock, and ISO 8601 durations added on that calendar
 * (`Temporal`, ECMA-262 proposal). Time zone data is the runtime's own (IANA, through Intl); nothing here reads the
 * current time.
 */
import { Temporal } from 'temporal-polyfill'

export interface LocalTime {
  /** `YYYY-MM-DD` */
  date: string
  /** Minutes since local midnight, 0 to 1439. */
  minutes: number
  weekday: Weekday
}

export const weekdays = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const
export type Weekday = (typeof weekdays)[number]

interface WallClock {
  year: number
  month: number
  day: number
  hour: number
  minute: number
  second: number
}

const formatters = new Map<string, Intl.DateTimeFormat>()

function formatter(timezone: string): Intl.DateTimeFormat {
  let found = formatters.get(timezone)
  if (!found) {
    found = new Intl.DateTimeFormat('en-US-u-ca-iso8601-nu-latn', {
      timeZone: timezone,
      hourCycle: 'h23',
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      hour: '2-digit',
      minute: '2-digit',
      second: '2-digit',
    })
    formatters.set(timezone, found)
  }
  return found
}

function wallClock(atMs: number, timezone: string): WallClock {
  const clock: Record<string, number> = {}
  for (const part of formatter(timezone).formatToParts(atMs)) clock[part.type] = Number(part.value)
  return clock as unknown as WallClock
}

const asUtc = (c: WallClock) => Date.UTC(c.year, c.month - 1, c.day, c.hour, c.minute, c.second)
const pad = (value: number, width = 2) => String(value).padStart(width, '0')

let latest: { atMs: number; timezone: string; local: LocalTime } | undefined

/** What the wall clock of `timezone` (IANA name) shows at `atMs` (milliseconds since 1970). */
export function localTime(atMs: number, timezone: string): LocalTime {
  // Many visitors are asked about at one instant, and Intl is slow: the latest answer is kept.
  if (latest?.atMs !== atMs || latest.timezone !== timezone)
    latest = { atMs, timezone, local: readClock(atMs, timezone) }
  return latest.local
}

function readClock(atMs: number, timezone: string): LocalTime {
  const clock = wallClock(atMs, timezone)
  const weekday = weekdays[(new Date(asUtc(clock)).getUTCDay() + 6) % 7]!
  return {
    date: `${pad(clock.year, 4)}-${pad(clock.month)}-${pad(clock.day)}`,
    minutes: clock.hour * 60 + clock.minute,
    weekday,
  }
}

/**
 * The instant at which a local date (`YYYY-MM-DD`) and time (`HH:MM`) begin; NaN where there is none such. A time the
 * clock skips moves forward by the skip; one that comes twice is the first (RFC 5545 §3.3.5).
 */
export function localInstant(date: string, time: string, timezone: string): number {
  if (!isDate(date) || !isTime(time)) return Number.NaN
  return Temporal.PlainDateTime.from(`${date}T${time}`).toZonedDateTime(timezone).epochMilliseconds
}

const durationShape =
  /^P(?=\d|T\d)(?:(\d+)Y)?(?:(\d+)M)?(?:(\d+)W)?(?:(\d+)D)?(?:T(?=\d)(?:(\d+)H)?(?:(\d+)M)?(?:(\d+)S)?)?$/

export const durationUnits = ['year', 'month', 'week', 'day', 'hour', 'minute', 'second'] as const

/** The digits of an ISO 8601 duration by unit, or null when it is not one (whole numbers only). */
export function durationParts(iso: string): (string | undefined)[] | null {
  const match = durationShape.exec(iso)
  return match ? match.slice(1) : null
}

/** The day of the month the wall clock of `timezone` shows, 1 to 31. */
export const dayOfMonth = (atMs: number, timezone: string): number => wallClock(atMs, timezone).day

/** The last instant there is (ECMA-262 §21.4.1.1): what would lead past it has not come yet, ever. */
const lastInstant = 8.64e15

/**
 * Adds years to days on the local calendar, hours to seconds exactly. `iso` must be a duration.
 * `anchorDay`: the day of the month that years and months lead to where the month has it, else its last;
 * left out, the day of `atMs`. With it, months from the 31st end on the last of each and come back to the 31st.
 */
export function addDuration(atMs: number, iso: string, timezone: string, anchorDay?: number): number {
  const parts = durationParts(iso)
  if (!parts || !Number.isFinite(atMs)) return Number.NaN
  const [years, months, weeks, days, hours, minutes, seconds] = parts.map(part => Number(part ?? 0)) as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ]
  const exact = ((hours * 60 + minutes) * 60 + seconds) * 1000
  if (!years && !months && !weeks && !days) return Math.min(atMs + exact, lastInstant)
  const from = Temporal.Instant.fromEpochMilliseconds(Math.floor(atMs)).toZonedDateTimeISO(timezone).toPlainDateTime()
  try {
    const month = from.add({ years, months })
    const anchored = anchorDay !== undefined && (years || months) ? month.with({ day: anchorDay }) : month
    return Math.min(anchored.add({ weeks, days }).toZonedDateTime(timezone).epochMilliseconds + exact, lastInstant)
  } catch (error) {
    if (error instanceof RangeError) return lastInstant
    throw error
  }
}

/** Whether a text is a day that exists, as `YYYY-MM-DD`. */
export function isDate(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false
  const at = new Date(`${text}T00:00:00Z`)
  return !Number.isNaN(at.getTime()) && at.toISOString().slice(0, 10) === text
}

export const isTime = (text: string) => /^([01]\d|2[0-3]):[0-5]\d$/.test(text)
export const minutesOf = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3))
/** Back: minutes of a day as `HH:MM`. */
export const timeOf = (minutes: number): string =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`

/** A local date, `YYYY-MM-DD`, as people of a locale read it; default English. */
export const dayWords = (date: string, locale = 'en'): string =>
  new Intl.DateTimeFormat(locale, { dateStyle: 'long', timeZone: 'UTC' }).format(Date.parse(`${date}T12:00:00Z`))
