/** What a kind of block tells the console about itself: what a new one holds, and how one is written. */
import type { KindField } from '~/kinds/app-kind'

export interface AppBlock {
  /** What it is called: a small letter first, after “a new”. */
  name: string
  /** What it is for, where one is chosen. */
  says: string
  /** The body a new one holds until somebody writes in it. Without it, none is added by hand. */
  first?: Record<string, unknown>
  /** The parts of its body that are not written in place. */
  fields: readonly KindField[]
  /** The part of its body that is a text, written in place. */
  text?: string
  /** It has no heading of its own. */
  unheaded?: true
  /** What one says, for calling it by its first words. */
  words?(body: Record<string, unknown>): string
  /** Other blocks stand in it. */
  holds?: true
}

/** One choice for each, named as they are said. */
export const optionsOf = (words: Readonly<Record<string, string>>) => () =>
  Object.entries(words).map(([value, label]) => ({ value, label }))
