/** What a page of the application's own says is wrong: a word of the site, said in the language of whoever reads it. */
import type { z } from 'zod'
import { isWordKey, word } from '../../core/site-words/site-words'
import type { Word } from '../../core/site-words/site-words'
import type { WordKey } from '../../core/site-words/english'
import type { Problem } from '../problem'

/** A text is said as it is: what only a mistake in the application could bring about. */
export type OwnProblem = Word | string

/** Of some reasons what exactly is wrong is one of their facts. */
const byFact: Record<string, (facts: Record<string, unknown>) => WordKey | string> = {
  'weak-password': ({ why }) => `wrong.password-${String(why)}`,
  'purchase-stale': ({ why }) => `wrong.stale-${String(why)}`,
  'in-a-firm': ({ firm }) => (firm === null ? 'wrong.in-this-firm' : 'wrong.in-another-firm'),
  'signed-in-too-often': () => 'wrong.too-many-tries',
}

/** What a problem of a service is called on the site. */
export function wordOf({ reason, code, facts, message }: Problem): OwnProblem {
  for (const name of [reason, code]) {
    if (name === undefined) continue
    const key = byFact[name]?.(facts) ?? `wrong.${name}`
    if (isWordKey(key)) return word(key, facts as Word['facts'])
  }
  return message
}

const fieldWords: Record<string, WordKey> = { name: 'wrong.name', email: 'wrong.email', password: 'wrong.password' }
/** The first problem of each field of a form. */
export function fieldProblems(error: z.ZodError): Record<string, OwnProblem> {
  const found: Record<string, OwnProblem> = {}
  for (const { path, message } of error.issues) {
    const field = String(path[0] ?? '')
    found[field] ??= fieldWords[field] ? word(fieldWords[field]) : message
  }
  return found
}
