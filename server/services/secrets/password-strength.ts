/**
 * Passwords that are tried first: common ones, runs on a keyboard, what is known of the person.
 * NIST SP 800-63B, 5.1.1.2: length counts, and the commonest are refused; no rules of composition.
 */
import type { ZxcvbnFactory } from '@zxcvbn-ts/core'
import type { Weakness } from '../../problems/problems'

let made: Promise<ZxcvbnFactory> | undefined
/** Read and made when first needed: each takes a tenth of a second. */
const strength = () => (made ??= makeStrength())
async function makeStrength(): Promise<ZxcvbnFactory> {
  const [{ ZxcvbnFactory }, { adjacencyGraphs, dictionary }] = await Promise.all([
    import('@zxcvbn-ts/core'),
    import('@zxcvbn-ts/language-common'),
  ])
  return new ZxcvbnFactory({ dictionary: { passwords: dictionary['passwords-common'] }, graphs: adjacencyGraphs })
}

/** Characters looked at: the time it takes grows with the square of them, and a stranger chooses how many. */
const mostLookedAt = 40
/** Of the estimator's scores from 0 to 4: below 2 means fewer than a million guesses. */
const leastScore = 2

/** What is wrong with a password for somebody known by these words (name, address); undefined when it may be taken. */
export async function weaknessOf(password: string, about: readonly string[]): Promise<Weakness | undefined> {
  const own = about
    .flatMap(words => [words, ...words.split(/[\s@]+/)])
    .filter(word => word.length > 2)
    .map(word => word.toLowerCase())
  const { score, sequence } = (await strength()).check(password.slice(0, mostLookedAt), own)
  if (score >= leastScore) return undefined
  if (sequence.some(part => 'dictionaryName' in part && part.dictionaryName === 'userInputs')) return 'own'
  return sequence.some(part => part.pattern === 'spatial') ? 'keyboard' : 'common'
}
