/** Whether things that move or change their address let somebody in where a gate kept them out. */
import { impactOf, reachBoard } from '../audit/reach-board'
import type { BoardTier } from '../audit/reach-board'
import { CompiledRules, thingsOf } from '../gates/compiled'
import { isThingKind } from './contents'
import type { Contents, Version } from './contents'

/**
 * Whether some tier gains a right to something that is live, by what `changes` do to things alone,
 * their rules left as they are. New things let nobody in anywhere: nobody was kept out of them.
 */
export function liftedBy<V extends Version>(live: Contents<V>, changes: readonly V[], nowMs: number): boolean {
  const moved = changes.filter(one => isThingKind(one.kind))
  if (!moved.some(one => one.body !== null && live.get(one.kind, one.key))) return false
  const after = live.with(moved)
  const tiers: BoardTier[] = (live.book.tiers ?? []).map(({ id, name, visitor }) => ({ id, name: name ?? id, visitor }))
  const things = thingsOf(live.index).filter(one => after.index.has(one.kind, one.id))
  const board = ({ index }: Contents<V>) => reachBoard(new CompiledRules(live.book, index), things, tiers, nowMs)
  const { gain, other } = impactOf(board(live), board(after))
  return gain + other > 0
}
