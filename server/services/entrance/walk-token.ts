/** Preview tokens: signed, short-lived, and good only together with the staff session they were made for. */
import { z } from 'zod'
import { visitor } from '../../../core/visitor/visitor'
import { Problem } from '../../problem'
import { isSignature, signature } from '../secrets/tokens'

const payload = z.strictObject({
  session: z.string(),
  tier: z.string(),
  visitor,
  draft: z.boolean(),
  /** An edition that is live no more. */
  edition: z.int().optional(),
  /** Milliseconds since 1970. */
  expires: z.number(),
})
export type WalkPass = z.infer<typeof payload>

export const walkMinutes = 15

export function makeWalkToken(pass: WalkPass): string {
  const body = Buffer.from(JSON.stringify(pass)).toString('base64url')
  return `${body}.${signature('walk', body)}`
}

/** The pass behind a token, for the session that made it; throws `bad-token` or `token-expired`. */
export function readWalkToken(token: string, sessionId: string | undefined, nowMs: number): WalkPass {
  const [body, given, ...rest] = token.split('.')
  if (!body || !given || rest.length || !isSignature('walk', body, given)) throw new Problem('bad-token')
  const pass = passIn(body)
  if (!pass) throw new Problem('bad-token')
  if (!sessionId || pass.session !== sessionId) throw new Problem('bad-token')
  if (pass.expires <= nowMs) throw new Problem('token-expired')
  return pass
}

/** Signed here, but perhaps by another version: what has not the shape of a pass is none. */
function passIn(body: string): WalkPass | undefined {
  try {
    return payload.safeParse(JSON.parse(Buffer.from(body, 'base64url').toString('utf8'))).data
  } catch {
    return undefined
  }
}
