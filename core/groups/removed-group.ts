/** What becomes of everything that names a level or role once it is taken out: nobody holds it, and nothing names it. */
import type { Condition } from '../conditions/condition'
import { conditionedKinds, withConditions } from '../rulebook/conditions-in'
import { entriesOf } from '../rulebook/rulebook'
import type { EntryKind, Rulebook } from '../rulebook/rulebook'
import type { Level, Tier } from '../rulebook/people-rules'
import type { SiteIndex } from '../site/site-index'
import { without } from './group-conditions'
import type { ChangedEntry, ChangedPart } from './copied-group'
import { partsChanged } from './copied-group'
import { byRank } from './group-ref'
import type { GroupRef } from './group-ref'

export interface RemovedGroup {
  entries: ChangedEntry[]
  parts: ChangedPart[]
}

/** Kinds that do nothing for nobody, and go with whom they were for. A gate stays shut, and an audience empty. */
const goesWithWhom: ReadonlySet<EntryKind> = new Set(['offer', 'delivery', 'landing', 'exception', 'goods', 'shown'])

export function removalOf(book: Rulebook, index: SiteIndex, of: GroupRef): RemovedGroup {
  const ranked = byRank(book).map(level => level.id)
  const make = (condition: Condition) => without(condition, of, ranked)
  const entries = entriesOf(book).flatMap(({ kind, key, body }): ChangedEntry[] => {
    const before = body as object
    const after = afterwards(kind, before, of, make)
    return after === before ? [] : [{ kind, id: key, before, after }]
  })
  return { entries, parts: partsChanged(index, make) }
}

function afterwards(kind: EntryKind, body: object, of: GroupRef, make: (one: Condition) => Condition): object | null {
  if (kind === 'level' && of.kind === 'role') return bringingLess(body as Level, of.id)
  if (kind === 'tier') return holdsIt(body as Tier, of) ? null : body
  if (!conditionedKinds.includes(kind)) return body
  const after = withConditions(kind, body, make)
  const { for: whom } = after as { for?: Condition }
  return after !== body && goesWithWhom.has(kind) && whom && 'nobody' in whom ? null : after
}

function bringingLess(level: Level, role: string): Level {
  if (!level.roles?.includes(role)) return level
  const { roles, ...rest } = level
  const left = roles.filter(one => one !== role)
  return left.length ? { ...rest, roles: left } : rest
}

const holdsIt = ({ visitor: { levels = [], roles = [] } }: Tier, { kind, id }: GroupRef) =>
  kind === 'level' ? levels.some(one => one.level === id) : roles.includes(id)
