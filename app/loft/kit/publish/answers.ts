import { impactOf } from '~~/core/audit/reach-board'
import { belongings } from '~~/core/editions/belongings'
import { nameOf } from '~~/core/editions/contents'
import type { Version } from '~~/core/editions/contents'
import { thingsOf } from '~~/core/gates/compiled'
import { answersOf } from '~/loft/core/worker/answering'
import { looked, Side, worldNow } from '~/loft/core/worker/world'
import type { PublishQuestions, WeighAnswer } from './questions'

const mostWeighed = 300
/** What each change alone would move, on top of what is live, and what the chosen ones move together. */
function weigh(changes: readonly Version[], chosen: readonly string[]): WeighAnswer {
  const { live, tiers, nowMs } = worldNow()
  const impact = (versions: readonly Version[]) => {
    const contents = live.contents.with(versions)
    const things = contents.index === live.contents.index ? live.board.things : thingsOf(contents.index)
    return impactOf(live.board, new Side(contents, things, tiers, nowMs, [live]).board, looked())
  }
  const wanted = new Set(chosen)
  const picked = changes.filter(one => wanted.has(nameOf(one)))
  return {
    // Of very many nobody reads what each moves alone.
    each: changes.length > mostWeighed ? [] : changes.map(one => impact([one])),
    chosen: impact(picked),
    together: [...belongings(changes, live.contents).together(chosen)],
  }
}

export const publishAnswers = answersOf<PublishQuestions>('publish', {
  weigh: ({ changes, chosen }) => weigh(changes, chosen),
})
