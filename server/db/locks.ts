/** What is done by one at a time, whichever server they came to: the numbers of its advisory locks, which nothing else may have. */
import { sql } from 'drizzle-orm'
import type { Tx } from './database'

export const lockNumbers = {
  /** Bringing a database up to date; taken by `scripts/prepare.ts`. */ migration: 7238,
  /** Making the month Activity is written into. */ months: 7239,
  /** Whatever may take the last key away. */ keepers: 7240,
  /** Changing many people. */ bulk: 7241,
  /** Checking that a server has the installation's secret. */ secret: 7242,
  /** Bringing what is found up to the live edition. */ search: 7243,
  /** Asking for another site to be read, or giving that up. */ siteReading: 7244,
} as const satisfies Record<string, number>

/** The same for one of many; their numbers stand before a hash of its name, apart from those above. */
const lockNumbersOfOne = {
  /** Counting how often the code of an offer is used. */ code: 1,
  /** Signing up with an address. */ signUp: 2,
  /** Saying that the bytes of a file stay, or taking them away. */ bytes: 3,
  /** Counting what somebody has fetched today. */ fetches: 4,
  /** Counting the pictures a person brings. */ pictures: 5,
  /** Counting what a person has under way. */ uploads: 6,
} as const satisfies Record<string, number>

/** Held to the end of the transaction. */
export const lockFor = (tx: Pick<Tx, 'execute'>, what: keyof typeof lockNumbers) =>
  tx.execute(sql`select pg_advisory_xact_lock(${lockNumbers[what]})`)

/** Held to the end of the transaction. Whoever takes several takes them in the order of their names. */
export const lockOne = (tx: Pick<Tx, 'execute'>, what: keyof typeof lockNumbersOfOne, name: string) =>
  tx.execute(sql`select pg_advisory_xact_lock(${lockNumbersOfOne[what]}::int, hashtext(${name}))`)
