/** The log: one JSON object a line. Nothing raw from a request and no parameter of a statement enters it. */
import pino from 'pino'
import { environment } from './environment'

/** Of an error only what cannot hold anybody's data: its name, the codes of system and database, and where it came from in our code. */
export interface ToldError {
  name: string
  code?: string
  at?: string
}

interface WithCause {
  name?: string
  code?: unknown
  cause?: unknown
  stack?: string
}

const depthMost = 5

/** Finds the code behind an error, however deep it was wrapped: SQLSTATE, or the system's such as ECONNREFUSED. */
export function codeOf(error: unknown): string | undefined {
  for (
    let at = error as WithCause | undefined, depth = 0;
    at && depth < depthMost;
    at = at.cause as WithCause | undefined, depth++
  ) {
    if (typeof at.code === 'string' && /^[A-Z0-9_]{3,40}$/.test(at.code)) return at.code
  }
  return undefined
}

/** A message may quote what was sent, and a database error prints its statement with its values: neither is kept. */
export function toldError(error: unknown): ToldError {
  const { name, stack } = (error ?? {}) as WithCause
  const code = codeOf(error)
  const at = stack
    ?.split('\n')
    .find(line => /^\s+at .*(server|core)\//.test(line))
    ?.trim()
    .slice(0, 200)
  return {
    name: typeof name === 'string' ? name.slice(0, 80) : typeof error,
    ...(code ? { code } : {}),
    ...(at ? { at } : {}),
  }
}

let made: pino.Logger | undefined

export const log = (): pino.Logger =>
  (made ??= pino(
    {
      level: environment().BRAVIK_LOG_LEVEL,
      base: { pid: process.pid },
      timestamp: pino.stdTimeFunctions.isoTime,
      formatters: { level: label => ({ level: label }) },
      serializers: { err: toldError },
    },
    pino.destination({ dest: 1, sync: false }),
  ))

/** Tells of something that went wrong beside a request. */
export const logFault = (what: string, error: unknown): void => log().error({ err: error }, what)
