/** What is asked of changes before they are published. */
import type { Impact } from '~~/core/audit/reach-board'
import type { Version } from '~~/core/editions/contents'
import { askerOf } from '~/loft/core/worker/ask-core'

export interface WeighAnswer {
  each: Impact[]
  chosen: Impact
  /** Names of what goes only together with what is chosen. */
  together: string[]
}
export interface PublishQuestions {
  /** What each change alone would move, on top of what is live; and all that are chosen together. */
  weigh(ask: { changes: Version[]; chosen: string[] }): WeighAnswer
}
export const askPublish = askerOf<PublishQuestions>('publish')
