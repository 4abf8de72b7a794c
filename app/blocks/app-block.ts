/** What a kind of block tells the console about itself: what a new one holds, and how one is written. */
import type { KindField } from '~/kinds/app-kind'

export interface AppBlock {
  /** The body a new one holds until somebody writes in it. Without it, none is added by hand. */
  first?: Record<string, unknown>
  /** The parts of its body. */
  fields: readonly KindField[]
  /** Other blocks stand in it. */
  holds?: true
}

/** One choice for each, named as they are said. */
export const optionsOf = (words: Readonly<Record<string, string>>) => () =>
  Object.entries(words).map(([value, label]) => ({ value, label }))
