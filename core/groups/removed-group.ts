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
  const nobody = nobodyIn(book)
  const make = (condition: Condition, kind?: EntryKind) => without(condition, of, ranked, nobody(kind))
  const entries = entriesOf(book).flatMap(({ kind, key, body }): ChangedEntry[] => {
    const before = body as object
    const after = afterwards(kind, before, of, one => make(one, kind))
    return after === before ? [] : [{ kind, id: key, before, after }]
  })
  return { entries, parts: partsChanged(index, one => make(one)) }
}

/**
 * What stands for nobody. In gates and in texts whoever has the master key passes what is held, and still does: they are
 * whom it is for then. An audience counts in prices too, where the key does not: for it nobody is, but for the key.
 */
function nobodyIn({ settings }: Rulebook): (kind?: EntryKind) => Condition {
  const none: Condition = { nobody: true }
  if (!settings?.masterKeys?.length) return () => none
  const keepers: Condition = { role: { anyOf: settings.masterKeys } }
  return kind => {
    if (kind === undefined || kind === 'gate') return keepers
    return kind === 'audience' ? { all: [keepers, { not: keepers }] } : none
  }
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
