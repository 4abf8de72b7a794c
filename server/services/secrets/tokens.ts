/** Random tokens and the hashes they are kept as. */
import { environment } from '../../environment'
import { createHmac, hash, randomBytes, randomInt, timingSafeEqual } from 'node:crypto'

export const hashOf = (token: string) => hash('sha256', token, 'base64url')
export const newToken = () => randomBytes(32).toString('base64url')

/** An id for a row, such as `p-k3v9…`: `length` small letters and digits behind the prefix. */
export const newId = (prefix: string, length = 12) =>
  `${prefix}-${BigInt(`0x${randomBytes(16).toString('hex')}`)
    .toString(36)
    .padStart(25, '0')
    .slice(-length)}`

// Without what looks like something else: 31 signs, so ten of them are as good as 49 bits.
const signs = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789'
const five = () => Array.from({ length: 5 }, () => signs[randomInt(signs.length)]).join('')
/** A code for people to type, such as `DYEDAY-7Q3KM-P2XRT`. */
export const newCode = (prefix: string) => `${prefix}-${five()}-${five()}`

/** The installation's secret; throws when it is missing. */
export function secret(): string {
  const value = environment().BRAVIK_SECRET
  if (!value) throw new Error('BRAVIK_SECRET must hold at least 32 characters: `npm start` makes one.')
  return value
}

/** A signature over `body` that is good for one `use` only. */
export const signature = (use: string, body: string) =>
  createHmac('sha256', secret()).update(`${use}:${body}`).digest('base64url')

export function isSignature(use: string, body: string, given: string): boolean {
  const [one, other] = [Buffer.from(given), Buffer.from(signature(use, body))]
  return one.length === other.length && timingSafeEqual(one, other)
}
