import { kinds, scopes } from '~~/core/kinds/kinds'
import { slug } from '~~/core/site/slug'

/** An id nobody has yet, from words: the words, or with a number behind. */
export function freshId(words: string, taken: readonly string[]): string {
  const base = slug(words) || 'new'
  const all = new Set(taken)
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}-${n}`
    if (!all.has(id)) return id
  }
}

/** Whether a gate on it stands before one thing of the board. */
export const isBoardScope = (scope: string) => scope in scopes && (kinds as readonly string[]).includes(scope)
