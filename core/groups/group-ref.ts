/** A level or a role, as rules name it. */
import type { Level, Role } from '../rulebook/people-rules'
import type { Rulebook } from '../rulebook/rulebook'

export interface GroupRef {
  kind: 'level' | 'role'
  id: string
}

export const entryOf = (book: Rulebook, { kind, id }: GroupRef): Level | Role | undefined =>
  (kind === 'level' ? book.levels : book.roles)?.find(one => one.id === id)

/** Levels from the lowest up. */
export const byRank = (book: Rulebook): Level[] => [...(book.levels ?? [])].sort((a, b) => a.rank - b.rank)
