/** Problems told to clients as `application/problem+json` (RFC 9457). */
import { codeOf } from './log'
import { sentenceOf, titles } from './problems/english'
import { codes, reasons } from './problems/problems'
import type { FactsOf, ProblemCode, Reason } from './problems/problems'

export type { ProblemCode }

/** The longest text of a problem, in characters: nothing that was sent is echoed at length. */
const mostTold = 200
const clipped = (text: string) => (text.length > mostTold ? `${text.slice(0, mostTold - 1)}…` : text)

/** What is said of an issue, shortened; `found` is kept as it is only where it is short. */
function clippedIssue(value: unknown, key = ''): unknown {
  if (typeof value === 'string') return clipped(value)
  if (key === 'found' && JSON.stringify(value)?.length > mostTold) return undefined
  if (Array.isArray(value)) return value.map(one => clippedIssue(one))
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([inner, one]) => [clipped(inner), clippedIssue(one, inner)]))
}

type What = ProblemCode | Reason
type Extra = Record<string, unknown>
/** A code alone says its title; a reason is told with its facts. `extra` goes into the answer as it is: never put secrets or other people's data there. */
type Told<W extends What> = W extends Reason
  ? FactsOf<W> extends undefined
    ? [facts?: Record<string, never>, extra?: Extra]
    : [facts: FactsOf<W>, extra?: Extra]
  : [facts?: undefined, extra?: Extra]

const isReason = (what: What): what is Reason => Object.hasOwn(reasons, what)

export class Problem<const W extends What = What> extends Error {
  readonly code: ProblemCode
  /** What exactly is wrong, where the code alone does not say it. */
  readonly reason: Reason | undefined
  readonly statusCode: number
  readonly title: string
  readonly extra: Extra
  readonly facts: Extra

  constructor(what: W, ...[facts, extra = {}]: Told<W>) {
    const code: ProblemCode = isReason(what) ? reasons[what] : (what as ProblemCode)
    super(isReason(what) ? sentenceOf(what, facts) : titles[code])
    this.code = code
    this.reason = isReason(what) ? what : undefined
    this.statusCode = codes[code]
    this.title = titles[code]
    this.extra = extra
    this.facts = (facts as Extra | undefined) ?? {}
  }

  body(): Record<string, unknown> {
    const { current, ...told } = this.extra
    return {
      type: `urn:bravik:problem:${this.code}`,
      title: this.title,
      status: this.statusCode,
      detail: clipped(this.message),
      ...(this.reason ? { reason: this.reason } : {}),
      ...(clippedIssue({ ...this.facts, ...told }) as object),
      ...(current === undefined ? {} : { current }),
    }
  }
}

/** Finds the problem behind an error, however deep it was wrapped. */
export function problemOf(error: unknown): Problem | undefined {
  for (let at = error, depth = 0; at && depth < 5; at = (at as { cause?: unknown }).cause, depth++)
    if (at instanceof Problem) return at
  return problemOfCode(codeOf(error))
}

/** What the database says about what was asked of it (SQLSTATE, PostgreSQL appendix A), and what says that it is away. */
function problemOfCode(code: string | undefined): Problem | undefined {
  if (code === undefined) return undefined
  if (/^22...$/.test(code)) return new Problem('value-out-of-range')
  if (code === '23505') return new Problem('taken-meanwhile')
  if (code === '23503') return new Problem('reference-gone')
  if (code === '40001' || code === '40P01') return new Problem('busy')
  // Cancelled by a timeout, a lock not had in time, the server shutting down, starting or full, a line that broke.
  if (/^(57014|55P03|57P0\d|53...|08...|25P03)$/.test(code) || lineCodes.has(code)) return new Problem('unavailable')
  return undefined
}

const lineCodes: ReadonlySet<string> = new Set([
  'CONNECTION_CLOSED',
  'CONNECTION_ENDED',
  'CONNECTION_DESTROYED',
  'CONNECT_TIMEOUT',
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'EHOSTUNREACH',
  'ENETUNREACH',
  'ENOTFOUND',
  'EAI_AGAIN',
])
