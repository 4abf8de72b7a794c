/** Problems told to clients as `application/problem+json` (RFC 9457). One catalogue: code, status, title. */
export const problems = {
  'not-json': [400, 'The body is not JSON'],
  'bad-input': [400, 'Something in the request does not fit'],
  'wrong-sign-in': [401, 'The address or the password is not right'],
  'sign-in-needed': [401, 'Sign in first'],
  'not-confirmed': [403, 'The address has not been confirmed yet'],
  'waiting': [403, 'The sign-up still waits to be looked at'],
  'suspended': [403, 'This account is not in use'],
  'sign-up-closed': [403, 'Nobody can sign up here now'],
  'not-allowed': [403, 'Your roles do not allow this'],
  'other-origin': [403, 'The request came from another site'],
  'bad-token': [403, 'The preview link is not valid'],
  'token-expired': [403, 'The preview link has expired'],
  'not-found': [404, 'There is nothing here'],
  'changed-meanwhile': [409, 'Somebody else changed this meanwhile'],
  'nothing-to-publish': [409, 'The draft holds no changes'],
  'in-use': [409, 'Something still needs this'],
  'taken': [409, 'This is taken already'],
  'not-for-sale': [409, 'This cannot be bought'],
  'mail-unchecked': [409, 'It is not known whether mail works'],
  'too-large': [413, 'The body is larger than 1 MB'],
  'wrong-type': [415, 'The body must be application/json'],
  'rules-broken': [422, 'The rules would not hold together'],
  'too-many-tries': [429, 'Too many tries, wait a while'],
} as const satisfies Record<string, readonly [number, string]>

export type ProblemCode = keyof typeof problems

export class Problem extends Error {
  readonly statusCode: number
  readonly title: string

  /** `extra` goes into the answer as it is: never put secrets or other people's data there. */
  constructor(readonly code: ProblemCode, detail?: string, readonly extra: Record<string, unknown> = {}) {
    super(detail ?? problems[code][1])
    this.statusCode = problems[code][0]
    this.title = problems[code][1]
  }

  body(): Record<string, unknown> {
    return { type: `urn:bravik:problem:${this.code}`, title: this.title, status: this.statusCode, detail: this.message, ...this.extra }
  }
}

/** Finds the problem behind an error, however deep it was wrapped. */
export function problemOf(error: unknown): Problem | undefined {
  for (let at = error, depth = 0; at && depth < 5; at = (at as { cause?: unknown }).cause, depth++) if (at instanceof Problem) return at
  return undefined
}
