import { Refusal } from './loft-api'

/** What could not be read, by name, and how it is asked for again. */
export const unread = shallowReactive(new Map<string, () => void>())
/** Rises with each place: what is told late belongs to one that was left. */
let place = 0
export function forgetUnread(): void {
  place++
  unread.clear()
}

const isNone: ReadonlySet<string> = new Set(['not-allowed', 'not-found'])

/**
 * Reads what a screen shows besides its main thing. Where that fails, what stood there stays, and `Unread` says above
 * every place what could not be read: it never looks as if there were none. What there is not, and what the reader has
 * no right to, is not missed.
 * @param what As it is named in a sentence: “the editions”.
 */
export async function reading<T>(what: string, ask: () => Promise<T>, take: (found: T) => void): Promise<void> {
  const asked = place
  let found: T
  try {
    found = await ask()
  } catch (error) {
    if (error instanceof Refusal && isNone.has(error.code)) return
    if (asked !== place) return
    return void unread.set(what, () => void reading(what, ask, take))
  }
  unread.delete(what)
  take(found)
}
