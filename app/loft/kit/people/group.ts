/** A group of people: a level, a role, a firm or a mix with a name, as the console looks at one. The same for all. */
import { eachLeaf } from '~~/core/conditions/condition'
import type { Condition } from '~~/core/conditions/condition'
import { rights } from '~~/core/kinds/kinds'
import type { Gate } from '~~/core/rulebook/gate'
import type { Audience, Level, Role } from '~~/core/rulebook/people-rules'
import type { Rulebook } from '~~/core/rulebook/rulebook'
import type { Visitor } from '~~/core/visitor/visitor'
import type { Jsonified, LoftAnswer } from '~/loft/core/loft-api'
import { freshId, isBoardScope } from '~/loft/kit/things/fresh-id'

const groupKinds = ['level', 'role', 'firm', 'audience'] as const
export type GroupKind = (typeof groupKinds)[number]
export const isGroupKind = (kind: unknown): kind is GroupKind => groupKinds.includes(kind as GroupKind)

export type Firm = Jsonified<LoftAnswer<'GET firms/:id'>>

export interface Group {
  kind: GroupKind
  id: string
  name: string
  /** Opens the loft. */
  staff: boolean
  /** Named in a rule. */
  who: Condition
  /** Exactly those who hold it. */
  holding: Condition
  /** Somebody who holds it, and nothing else; of a mix nobody stands for it. */
  visitor: Visitor | null
}

/** One that somebody can stand for. */
export interface StandingGroup extends Group {
  visitor: Visitor
}

/** What a level or role is drawn in that has no column on Reach. */
export const undyed = '#6b5b3e'

const somebody = { person: { id: 'somebody' } }
const since = '2020-01-01T00:00:00Z'

export const levelGroup = (level: Level): StandingGroup => ({
  kind: 'level',
  id: level.id,
  name: level.name ?? level.id,
  staff: false,
  who: { level: { atLeast: level.id } },
  holding: { level: { in: [level.id] } },
  visitor: { ...somebody, levels: [{ level: level.id, since }] },
})
export const roleGroup = (role: Role): StandingGroup => ({
  kind: 'role',
  id: role.id,
  name: role.name ?? role.id,
  staff: role.staff === true,
  who: { role: { anyOf: [role.id] } },
  holding: { role: { anyOf: [role.id] } },
  visitor: { ...somebody, roles: [role.id] },
})
export const firmGroup = ({
  id,
  name,
  levels,
  roles,
}: Pick<Firm, 'id' | 'name' | 'levels' | 'roles'>): StandingGroup => ({
  kind: 'firm',
  id,
  name,
  staff: false,
  who: { firm: { in: [id] } },
  holding: { firm: { in: [id] } },
  visitor: { ...somebody, firm: id, levels: levels.map(({ level, since, until }) => ({ level, since, until })), roles },
})

export const mixGroup = ({ id, name = id }: Audience): Group => ({
  kind: 'audience',
  id,
  name,
  staff: false,
  who: { audience: id },
  holding: { audience: id },
  visitor: null,
})

/** Whether a condition names it, through an audience too. */
function namesGroup(condition: Condition, { kind, id }: Pick<Group, 'kind' | 'id'>, book: Rulebook): boolean {
  let found = false
  const seen = new Set<string>()
  const look = (one: Condition) =>
    eachLeaf(one, (key, argument) => {
      if (key === kind)
        found ||=
          argument === id ||
          Object.values(argument as object)
            .flat()
            .includes(id)
      if (key !== 'audience' || seen.has(argument)) return
      seen.add(argument)
      const is = book.audiences?.find(audience => audience.id === argument)?.is
      if (is) look(is)
    })
  look(condition)
  return found
}

/** Gates that name it, in the order of the rules. */
export const gatesNaming = (group: Pick<Group, 'kind' | 'id'>, book: Rulebook): Gate[] =>
  (book.gates ?? []).filter(gate => rights.some(right => gate[right] && namesGroup(gate[right], group, book)))

/** A tier that stands for it and nothing else: its column on Reach. */
export const columnOf = ({ kind, id }: Pick<Group, 'kind' | 'id'>, book: Rulebook) =>
  (book.tiers ?? []).find(({ visitor: { levels = [], roles = [], firm } }) =>
    kind === 'level'
      ? levels.length === 1 && levels[0]!.level === id && !roles.length
      : kind === 'role'
        ? roles.length === 1 && roles[0] === id && !levels.length
        : kind === 'firm' && firm === id,
  )

/** The column of a group that has none yet. */
export function newColumn(
  group: StandingGroup,
  book: Rulebook,
): { id: string; name: string; note?: string; visitor: Visitor } {
  const id = freshId(
    group.id,
    (book.tiers ?? []).map(tier => tier.id),
  )
  const visitor = { ...group.visitor, person: { id: `tier-${id}`, name: group.name } }
  return { id, name: group.name, ...(group.kind === 'level' ? {} : { note: group.kind }), visitor }
}

/** Where a gate leads on the board: to what it stands before, if that is one thing. */
export function gateTarget(on: object): string {
  const [kind, id] = Object.entries(on).find(([key]) => key !== 'below') as [string, unknown]
  return isBoardScope(kind) ? `/loft?thing=${encodeURIComponent(`${kind}:${String(id)}`)}` : '/loft'
}
