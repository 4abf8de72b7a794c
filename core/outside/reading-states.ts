/** The states of reading another site, and what may follow what. What is not in the table is refused. */
import type { HtmlPage } from './outside-page'

export const readingStates = {
  /** Somebody asked for it. `begin`: a server takes it up, again where the one before is gone. */
  asked: { begin: 'reading', leave: 'left' },
  /** `end`: everything found was asked for, or as much as is ever read. `fail`: there was nothing to read. */
  reading: { begin: 'reading', end: 'read', fail: 'failed', leave: 'left' },
  read: {},
  failed: {},
  /** Given up by somebody: what was read until then can be brought. */
  left: {},
} as const
export type ReadingState = keyof typeof readingStates
export type ReadingEvent = 'begin' | 'end' | 'fail' | 'leave'

/** Undefined where that cannot follow. */
export const afterReading = (state: ReadingState, event: ReadingEvent): ReadingState | undefined =>
  (readingStates[state] as Partial<Record<ReadingEvent, ReadingState>>)[event]

/** What became of a page or a picture. */
export type ReadingOutcome =
  | { page: HtmlPage }
  /** A stored one. */
  | { picture: string }
  /** The page it leads on to, which is read there. */
  | { ledTo: string }
  | { unread: string }
