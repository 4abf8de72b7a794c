/** Levels in another order: which get another rank, and what asks for them by rank. */
import { eachLeaf } from '../conditions/condition'
import { conditionedKinds, conditionsIn } from '../rulebook/conditions-in'
import type { Level } from '../rulebook/people-rules'
import { entriesOf } from '../rulebook/rulebook'
import type { EntryKind, Rulebook } from '../rulebook/rulebook'
import { byRank } from './group-ref'

/** The levels that rank otherwise once one stands at that place, from 0 for the lowest; the ranks there are stay the same. */
export function rankedAt(book: Rulebook, id: string, place: number): Level[] {
  const before = byRank(book)
  const moved = before.find(level => level.id === id)
  if (!moved) return []
  const after = before.filter(level => level !== moved)
  after.splice(Math.max(0, Math.min(place, after.length)), 0, moved)
  return after.flatMap((level, i) => (level.rank === before[i]!.rank ? [] : [{ ...level, rank: before[i]!.rank }]))
}

/** Entries that ask for at least, or at most, one of these levels. */
export function askedByRank(book: Rulebook, levels: ReadonlySet<string>): { kind: EntryKind; id: string }[] {
  return entriesOf(book).flatMap(({ kind, key, body }) => {
    if (!conditionedKinds.includes(kind)) return []
    let asks = false
    for (const [, condition] of conditionsIn(kind, body as object))
      eachLeaf(condition, (leaf, argument: unknown) => {
        if (leaf !== 'level') return
        const { atLeast, atMost } = argument as { atLeast?: string; atMost?: string }
        asks ||= levels.has(atLeast ?? atMost ?? '')
      })
    return asks ? [{ kind, id: key }] : []
  })
}
