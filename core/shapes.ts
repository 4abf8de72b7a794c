/** The small shapes entries are made of. Each zod issue carries the catalogue's code in `params.code`. */
import ipaddr from 'ipaddr.js'
import { z } from 'zod'
import { durationParts, isDate, isTime, weekdays } from './calendar'
import type { IssueCode } from './errors'

type Sink = { issues: unknown[]; value: unknown }

/** Reports `code` at `path` below the value being checked. */
export function report(sink: Sink, code: IssueCode, path: (string | number)[] = [], detail?: string): void {
  sink.issues.push({ code: 'custom', path, params: { code, detail }, input: sink.value, message: detail ?? code })
}

export const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** A schema whose check is written by hand, for shapes zod's own unions would report in the wrong place. */
export function shape<T>(check: (sink: Sink) => void): z.ZodType<T> {
  return z.unknown().check(sink => check(sink as Sink)) as unknown as z.ZodType<T>
}

/** Runs another schema on a part and reports what it finds below `path`. */
export function within(sink: Sink, schema: z.ZodType, value: unknown, path: (string | number)[]): void {
  const result = schema.safeParse(value)
  if (result.success) return
  for (const found of result.error.issues) sink.issues.push({ ...found, path: [...path, ...found.path], input: value })
}

/**
 * An object with exactly one of the given keys (and any of `besides`).
 * Unknown keys are reported where they stand, none or several at the object.
 */
export function oneOfKeys<T>(
  kinds: () => Record<string, z.ZodType>,
  besides: (key: string) => Record<string, z.ZodType> = () => ({}),
): z.ZodType<T> {
  return shape<T>(sink => {
    if (!isObject(sink.value)) return report(sink, 'bad-value', [], 'An object with one key is expected.')
    const value = sink.value
    const known = Object.keys(value).filter(key => Object.hasOwn(kinds(), key))
    const beside = known.length === 1 ? besides(known[0]!) : {}
    const unknown = Object.keys(value).filter(key => !known.includes(key) && !Object.hasOwn(beside, key))
    for (const key of unknown) report(sink, 'unknown-key', [key], `Expected one of ${Object.keys(kinds()).join(', ')}.`)
    if (known.length > 1 || (known.length === 0 && unknown.length === 0))
      return report(sink, 'one-key', [], `One of ${Object.keys(kinds()).join(', ')}.`)
    for (const key of known) within(sink, kinds()[key]!, value[key], [key])
    for (const key of Object.keys(beside)) if (key in value) within(sink, beside[key]!, value[key], [key])
  })
}

export const text = (code: IssueCode, fits: (value: string) => boolean, detail?: string) =>
  shape<string>(sink => {
    if (typeof sink.value !== 'string') return report(sink, 'bad-value', [], 'A text is expected.')
    if (!fits(sink.value)) report(sink, code, [], detail)
  })

export const idPattern = /^[a-z0-9][a-z0-9-]*$/
export const id = text('bad-id', value => idPattern.test(value))
/** The id of a thing of the site, which may be written as its operator likes. */
export const key = z.string().min(1)
/** An id that refers to something: whether it exists is checked with the site at hand. */
export const reference = key
export const label = z.string().min(1)
export const choices = <S extends z.ZodType>(each: S) => z.array(each).min(1)

/** IPv4 in four parts or IPv6, and a prefix length; shorter spellings are refused. */
function isNetwork(value: string): boolean {
  const address = value.slice(0, value.indexOf('/'))
  return ipaddr.isValidCIDR(value) && (ipaddr.IPv4.isValidFourPartDecimal(address) || ipaddr.IPv6.isValid(address))
}

export const date = text('bad-value', isDate, 'A day that exists, as YYYY-MM-DD.')
export const time = text('bad-value', isTime, 'A time of day, as HH:MM.')
export const duration = text(
  'bad-value',
  value => durationParts(value) !== null,
  'An ISO 8601 duration such as P30D or P1Y.',
)
export const instant = text(
  'bad-value',
  value =>
    /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:\d{2})$/.test(value) &&
    !Number.isNaN(Date.parse(value)),
  'An instant such as 2026-06-10T10:00:00Z.',
)
export const country = text('bad-value', value => /^[A-Z]{2}$/.test(value), 'A country code of ISO 3166-1, such as IE.')
export const region = text(
  'bad-value',
  value => /^[A-Z]{2}-[A-Z0-9]{1,3}$/.test(value),
  'A region code of ISO 3166-2, such as ES-CT.',
)
export const language = text(
  'bad-value',
  value => /^[a-z]{1,8}(-[a-z0-9]{1,8})*$/i.test(value),
  'A language tag such as en or pt-BR.',
)
export const host = text(
  'bad-value',
  value => /^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$/i.test(value),
  'A host name such as example.org.',
)
/** The same, with the port where it is not the usual one. */
export const hostAndPort = text(
  'bad-value',
  value => /^[a-z0-9]([a-z0-9.-]*[a-z0-9])?(:\d{1,5})?$/i.test(value),
  'A host name such as example.org, with its port where that is not the usual one.',
)
export const network = text('bad-value', isNetwork, 'A network such as 192.0.2.0/24.')
export const weekday = z.enum(weekdays)
export const devices = ['phone', 'tablet', 'desktop'] as const
export const device = z.enum(devices)

export const count = z.int().min(0)
export const whole = z.int().min(1)
/** Money in the currency's minor unit. */
export const minor = z.int().min(0)

/** A percentage: a number or a decimal text without a sign, at most four decimals. */
export const percentage = (most: number) =>
  shape<string | number>(sink => {
    const written = typeof sink.value === 'number' ? plainDecimal(sink.value) : sink.value
    if (typeof written !== 'string' || !/^\d+(\.\d{1,4})?$/.test(written))
      return report(sink, 'bad-value', [], 'A percentage with at most four decimals and no sign.')
    if (Number(written) > most) report(sink, 'bad-value', [], `At most ${most}.`)
  })

const plainDecimal = (value: number) => (/e/i.test(String(value)) ? null : String(value))

/** A path on this site: one leading slash, no scheme, no `//`, no backslash or control character. */
export function isSitePath(value: string): boolean {
  // eslint-disable-next-line no-control-regex -- control characters are what is looked for
  return value.startsWith('/') && !value.includes('//') && !/[\\\u0000-\u001f\u007f]/.test(value)
}
export const sitePath = text('not-a-site-path', isSitePath)
