import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addDuration, durationParts, isDate, localInstant, localTime } from './calendar'

const at = (iso: string) => Date.parse(iso)
const plus = (iso: string, duration: string, zone = 'Europe/Dublin') =>
  new Date(addDuration(at(iso), duration, zone)).toISOString()

describe('the local calendar', () => {
  it.each([
    ['2026-01-31T12:00:00Z', 'P1M', '2026-02-28T12:00:00.000Z', "the day is cut to the month's last"],
    ['2028-02-29T12:00:00Z', 'P1Y', '2029-02-28T12:00:00.000Z', 'a leap day too'],
    ['2026-03-28T12:00:00Z', 'P1D', '2026-03-29T11:00:00.000Z', 'a day may have 23 hours'],
    ['2026-03-28T12:00:00Z', 'PT24H', '2026-03-29T12:00:00.000Z', 'hours are exact'],
    ['2026-03-28T01:30:00Z', 'P1D', '2026-03-29T01:30:00.000Z', 'a time the clock skips moves forward'],
    ['2026-10-24T00:30:00Z', 'P1D', '2026-10-25T00:30:00.000Z', 'of a time that comes twice the first counts'],
    ['2025-12-31T23:00:00Z', 'P1Y2M3W4DT5H6M7S', '2027-03-26T04:06:07.000Z', 'years to days first, then the rest'],
  ])('%s and %s is %s: %s', (from, duration, to) => {
    expect(plus(from, duration)).toBe(to)
  })

  it('reads what the wall clock shows', () => {
    expect(localTime(at('2026-06-13T23:30:00Z'), 'Europe/Dublin')).toEqual({
      date: '2026-06-14',
      minutes: 30,
      weekday: 'sun',
    })
    expect(localTime(at('2026-11-24T00:00:00Z'), 'America/Los_Angeles')).toEqual({
      date: '2026-11-23',
      minutes: 960,
      weekday: 'mon',
    })
    expect(localInstant('2026-06-14', '00:30', 'Europe/Dublin')).toBe(at('2026-06-13T23:30:00Z'))
  })

  it('leads months to their anchor day where they have it, and days from wherever one stands', () => {
    const from = (iso: string, duration: string) => new Date(addDuration(at(iso), duration, 'UTC', 31)).toISOString()
    expect([
      from('2026-01-31T12:00:00Z', 'P1M'),
      from('2026-02-28T12:00:00Z', 'P1M'),
      from('2026-03-31T12:00:00Z', 'P1M'),
      from('2026-02-28T12:00:00Z', 'P1D'),
    ]).toEqual([
      '2026-02-28T12:00:00.000Z',
      '2026-03-31T12:00:00.000Z',
      '2026-04-30T12:00:00.000Z',
      '2026-03-01T12:00:00.000Z',
    ])
  })

  it('ends with the last instant there is, and has none of a day or time that is not', () => {
    const last = ['P999999999Y', 'P9999999999D', 'PT99999999999999H'].map(one => addDuration(0, one, 'Europe/Dublin'))
    expect(last).toEqual([8.64e15, 8.64e15, 8.64e15])
    expect(localInstant('2026-02-29', '10:00', 'UTC')).toBeNaN()
    expect(localInstant('2026-02-28', '24:00', 'UTC')).toBeNaN()
  })

  it('never goes back, whatever is added', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 4e12 }),
        fc.constantFrom('P1D', 'P1M', 'P1Y', 'PT1S', 'P1W'),
        fc.constantFrom('Europe/Dublin', 'America/New_York', 'Asia/Kathmandu', 'Australia/Lord_Howe'),
        (start, duration, zone) => {
          expect(addDuration(start, duration, zone)).toBeGreaterThan(start)
        },
      ),
    )
  })

  it('knows days and durations that are none', () => {
    expect(['2026-02-29', '2028-02-29', '2026-13-01', '2026-1-1', ''].map(isDate)).toEqual([
      false,
      true,
      false,
      false,
      false,
    ])
    expect(['P', 'PT', 'P1DT', '30 days', 'P1.5D', '-P1D', 'P1H', 'p1d'].map(durationParts)).toEqual(
      Array(8).fill(null),
    )
  })
})
