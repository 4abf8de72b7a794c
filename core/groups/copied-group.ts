/** A copy of a level or role that reaches and pays as its original does: all that would have to name it too. */
import type { Condition } from '../conditions/condition'
import type { Block } from '../kinds/block'
import type { Level, Role } from '../rulebook/people-rules'
import { conditionedKinds, conditionsIn, withConditions } from '../rulebook/conditions-in'
import { entriesOf } from '../rulebook/rulebook'
import type { EntryKind, Rulebook } from '../rulebook/rulebook'
import type { SiteIndex } from '../site/site-index'
import { besides, namesIt } from './group-conditions'
import { byRank, entryOf } from './group-ref'
import type { GroupRef } from './group-ref'

/** An entry of the rules that would say something else; `after` is null where it goes. */
export interface ChangedEntry {
  kind: EntryKind
  id: string
  before: object
  after: object | null
}
/** A part of the site that would: its look for some, and the passages of its text, each a condition. */
export interface ChangedPart {
  /** Of what kind the thing with the text is. */ kind: string
  id: string
  accent?: Block['accent'] | null
  passages?: (Condition | null)[]
}

export interface CopiedGroup {
  kind: 'level' | 'role'
  entry: Level | Role
  /** Levels above it that make room for its rank. */
  moved: Level[]
  /** What names the original and would name the copy besides. */
  entries: ChangedEntry[]
  parts: ChangedPart[]
  /** What admits it by its rank, and needs no change: gates, offers and the like that ask for at least its original. */
  byRank: { kind: EntryKind; id: string }[]
}

/** Kinds of thing whose texts have passages. */
const written = ['post', 'block', 'product', 'download'] as const

/** Parts of the site whose conditions differ once each is as `make` makes it. */
export function partsChanged(index: SiteIndex, make: (one: Condition) => Condition): ChangedPart[] {
  return written.flatMap(kind =>
    [...index.all(kind).values()].flatMap((thing): ChangedPart[] => {
      const { id, passages, accent } = thing as Pick<Block, 'id' | 'passages' | 'accent'>
      const said = (passages as (Condition | null)[] | undefined)?.map(one => one && make(one))
      const reworded = said?.some((one, i) => one !== passages![i]) ?? false
      const whom = accent?.for as Condition | undefined
      const madeFor = whom && make(whom)
      if (!reworded && madeFor === whom) return []
      return [
        {
          kind,
          id,
          ...(reworded ? { passages: said! } : {}),
          ...(madeFor === whom ? {} : { accent: { ...accent!, for: madeFor as Record<string, unknown> } }),
        },
      ]
    }),
  )
}

/** `to`: the id and name of the copy, which is nobody's yet. Null where there is no such group. */
export function copyOf(
  book: Rulebook,
  index: SiteIndex,
  of: GroupRef,
  to: { id: string; name: string },
): CopiedGroup | null {
  const original = entryOf(book, of)
  if (!original) return null
  const make = (condition: Condition) => besides(condition, of, to.id)
  const naming = entriesOf(book).filter(
    ({ kind, body }) =>
      conditionedKinds.includes(kind) && conditionsIn(kind, body as object).some(([, one]) => namesIt(one, of)),
  )
  const entries = naming.flatMap(({ kind, key, body }): ChangedEntry[] => {
    const after = withConditions(kind, body as object, make)
    return after === body ? [] : [{ kind, id: key, before: body as object, after }]
  })
  const changed = new Set(entries.map(({ kind, id }) => `${kind} ${id}`))
  const { publicName: _, ...entry } = { ...original, ...to } as Level & { publicName?: string }
  const { moved, rank } = of.kind === 'level' ? roomAbove(book, original as Level) : { moved: [], rank: undefined }
  // Everybody who signs up gets the one there is: a second would be given besides.
  const { onSignUp: _signUp, ...rest } = entry
  return {
    kind: of.kind,
    entry: rank === undefined ? entry : ({ ...rest, rank } as Level),
    moved,
    entries,
    parts: partsChanged(index, make),
    byRank: naming.flatMap(({ kind, key }) => (changed.has(`${kind} ${key}`) ? [] : [{ kind, id: key }])),
  }
}

/** A rank between a level and the next; where there is none, those above move up, and stay in their order. */
function roomAbove(book: Rulebook, { rank }: Level): { rank: number; moved: Level[] } {
  const above = byRank(book).filter(one => one.rank > rank)
  const next = above[0]?.rank ?? rank + 20
  if (next - rank > 1) return { rank: rank + Math.floor((next - rank) / 2), moved: [] }
  const moved: Level[] = []
  let least = rank + 2
  for (const one of above) {
    if (one.rank >= least) break
    moved.push({ ...one, rank: least })
    least++
  }
  return { rank: rank + 1, moved }
}
