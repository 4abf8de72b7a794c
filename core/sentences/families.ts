/**
 * How a picker teaches what a rule can look at: in families, each with the phrases it can begin with and the everyday
 * words people look for it by, which stand with the phrases themselves.
 */
/** In the order in which an empty picker shows them. */
export const families = {
  holds: 'what they hold',
  who: 'who they are',
  bought: 'what they bought',
  when: 'when',
  from: 'where they come from',
  device: 'on what device',
  address: 'what the address says',
  facts: 'facts of your own',
  opens: 'what else opens to them',
  record: 'whose record it is',
} as const
export type Family = keyof typeof families

/** A phrase with a blank: what it shows, and what stands in the field once it is taken, ready to be gone on with. */
export interface Blank {
  text: string
  fill: string
}

export interface Taught<A> {
  family: Family
  blanks: Blank[]
  /** Single everyday words that find it; each may find others too. */
  alsoCalled?: string[]
  /** Everyday words for one thing it can say. */
  meaning?: Record<string, A>
}

export const blank = (text: string, fill = text.replace(/…+.*$/, '')): Blank => ({ text, fill })
