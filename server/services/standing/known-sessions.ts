/**
 * Who is signed in, remembered between requests. Whatever moves a session, a person or what they hold makes the
 * database say so (triggers of migration 0010), and a request that changes anything forgets before it is answered;
 * without a listener that hears, nothing is remembered. What nobody contradicts is believed for five seconds.
 */
export const standingChannel = 'bravik_standing'
const believedMs = 5000
const mostKnown = 20_000

let known = new Map<string, object>()
/** On the process's own clock, which nobody sets back. */
let since = performance.now()
let isHearing = false

/** From now on what was remembered is asked for again; what is being asked for is not remembered. */
export function forgetSessions(): void {
  known = new Map()
  since = performance.now()
}

/** Whether this process hears at once what moves. */
export function hearsOfSessions(hears: boolean): void {
  if (hears !== isHearing) forgetSessions()
  isHearing = hears
}

/** What is remembered by `key`: the token itself, which is as secret as what comes with each request, and forgotten as soon. */
export function sessionInMind(key: string): object | undefined {
  if (performance.now() - since > believedMs) forgetSessions()
  return known.get(key)
}

/** The same, or what `read` answers, remembered unless something moved while it was read. */
export async function rememberedSession<T extends object>(
  key: string,
  read: () => Promise<T | null>,
): Promise<T | null> {
  const found = sessionInMind(key)
  if (found) return found as T
  const before = known
  const fresh = await read()
  if (fresh && isHearing && known === before && known.size < mostKnown) known.set(key, fresh)
  return fresh
}
