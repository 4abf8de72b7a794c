/** Problems told to clients as `application/problem+json` (RFC 9457). One catalogue: code, status, title. */
import { codeOf } from './log'

export const problems = {
  'not-json': [400, 'The body is not JSON'],
  'bad-input': [400, 'Something in the request does not fit'],
  'bad-path': [400, 'This is not an address'],
  'wrong-sign-in': [401, 'The address or the password is not right'],
  'sign-in-needed': [401, 'Sign in first'],
  'not-confirmed': [403, 'The address has not been confirmed yet'],
  waiting: [403, 'The sign-up still waits to be looked at'],
  suspended: [403, 'This account is not in use'],
  'sign-up-closed': [403, 'Nobody can sign up here now'],
  'not-allowed': [403, 'Your roles do not allow this'],
  'other-origin': [403, 'The request came from another site'],
  'bad-token': [403, 'The preview link is not valid'],
  'token-expired': [403, 'The preview link has expired'],
  'not-found': [404, 'There is nothing here'],
  'wrong-method': [405, 'This cannot be done here'],
  'changed-meanwhile': [409, 'Somebody else changed this meanwhile'],
  'nothing-to-publish': [409, 'The draft holds no changes'],
  'in-use': [409, 'Something still needs this'],
  taken: [409, 'This is taken already'],
  'not-for-sale': [409, 'This cannot be bought'],
  'mail-unchecked': [409, 'It is not known whether mail works'],
  'too-large': [413, 'The body is too large'],
  'wrong-type': [415, 'The body must be application/json'],
  'rules-broken': [422, 'The rules would not hold together'],
  'too-many-tries': [429, 'Too many tries, wait a while'],
  busy: [503, 'Too much is asked at once, try again in a moment'],
  unavailable: [503, 'The site cannot answer just now, try again in a moment'],
} as const satisfies Record<string, readonly [number, string]>

export type ProblemCode = keyof typeof problems

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

export class Problem extends Error {
  readonly statusCode: number
  readonly title: string

  /** `extra` goes into the answer as it is: never put secrets or other people's data there. */
  constructor(
    readonly code: ProblemCode,
    detail?: string,
    readonly extra: Record<string, unknown> = {},
  ) {
    super(detail ?? problems[code][1])
    this.statusCode = problems[code][0]
    this.title = problems[code][1]
  }

  body(): Record<string, unknown> {
    const { current, ...told } = this.extra
    return {
      type: `urn:bravik:problem:${this.code}`,
      title: this.title,
      status: this.statusCode,
      detail: clipped(this.message),
      ...(clippedIssue(told) as object),
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
  if (/^22...$/.test(code)) return new Problem('bad-input', 'A value is out of range or of the wrong form.')
  if (code === '23505') return new Problem('taken', 'Somebody else took this meanwhile. Look again.')
  if (code === '23503')
    return new Problem('in-use', 'Something this refers to is gone, or still refers to it. Look again.')
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
