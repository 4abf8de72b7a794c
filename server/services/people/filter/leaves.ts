/**
 * How each thing a rule can look at is asked of a list of people in SQL, or that
 * it cannot be. A leaf that says neither does not compile.
 */
import { sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { LeafArgument, LeafKey } from '../../../../core/conditions/leaves/leaves'
import type { FactsOf } from '../../../problems/problems'
import { factSql, indexedFact } from './facts'
import { firmIds, levelIds, levelsOf, memberForIds, permissionIds, roleIds } from './grants'
import type { FilterWorld } from './people-filter'
import { basketIds, boughtIds, ordersIds, spentIds } from './purchases'
import { among, combined, joined, list, yes } from './sql'

interface AskedInSql<A> {
  /** True, false or null (unknown) for each row of `person`. */
  is(argument: A, world: FilterWorld): SQL
  /** True exactly where `is` is, and quicker. */
  admitted?(argument: A, world: FilterWorld): SQL | null
  /** Everybody it is true for, as a set; null where there is none. An id may come twice. */
  ids?(argument: A, world: FilterWorld): SQL | null
  /** Never unknown: taking its set away from another is its `not`. */
  twoValued?: true
}
export type SqlOfLeaf<A> =
  | AskedInSql<A>
  /** Looks at the clock or at the request, in which people on a list have no part: the core answers once for all. */
  | 'same for all'
  /** Leads to another condition. */
  | 'audience'
  /** Cannot be asked: of what kind it is, the refusal says. */
  | { refused: FactsOf<'not-asked-of-people'>['what'] }

/** A leaf that is a set of people, and nothing else. */
const set = <A>(ids: (argument: A, world: FilterWorld) => SQL): AskedInSql<A> => ({
  is: (argument, world) => among(ids(argument, world)),
  ids,
  twoValued: true,
})

const ofRecords = { refused: 'records' } as const

const leaves: { [K in LeafKey]: SqlOfLeaf<LeafArgument<K>> } = {
  everyone: 'same for all',
  nobody: 'same for all',
  signedIn: 'same for all',
  level: {
    is: (argument, world) => {
      const { held, but } = levelsOf(argument, world)
      const holding = among(levelIds(held, world))
      return but.length ? sql`(${holding} and not ${among(levelIds(but, world))})` : holding
    },
    ids: (argument, world) => {
      const { held, but } = levelsOf(argument, world)
      const holding = levelIds(held, world)
      return but.length ? sql`(${holding}) except (${levelIds(but, world)})` : holding
    },
    twoValued: true,
  },
  role: {
    is: (argument, world) =>
      'anyOf' in argument
        ? among(roleIds(argument.anyOf, world))
        : joined(argument.allOf, 'and', yes, role => among(roleIds([role], world))),
    ids: (argument, world) =>
      'anyOf' in argument
        ? roleIds(argument.anyOf, world)
        : combined(
            argument.allOf.map(role => roleIds([role], world)),
            'intersect',
          ),
    twoValued: true,
  },
  audience: 'audience',
  permission: set(permissionIds),
  person: { is: ({ in: persons }) => sql`(person.id = any(${list(persons)}))` },
  firm: set(firmIds),
  bought: set(boughtIds),
  orders: set(ordersIds),
  spent: set(spentIds),
  memberFor: set(memberForIds),
  basket: set(basketIds),
  opens: { refused: 'opening' },
  date: 'same for all',
  time: 'same for all',
  weekday: 'same for all',
  device: 'same for all',
  browser: 'same for all',
  region: 'same for all',
  country: 'same for all',
  language: 'same for all',
  address: 'same for all',
  referrer: 'same for all',
  query: 'same for all',
  fact: {
    is: factSql,
    admitted: indexedFact,
    ids: (argument, world) => {
      const indexed = indexedFact(argument, world)
      return indexed && sql`select person.id from person where ${indexed}`
    },
  },
  mine: ofRecords,
  assigned: ofRecords,
  record: ofRecords,
}

/** How a leaf is asked; undefined for a key that is none. */
export const sqlOfLeaf = (key: string): SqlOfLeaf<unknown> | undefined =>
  Object.hasOwn(leaves, key) ? (leaves[key as LeafKey] as unknown as SqlOfLeaf<unknown>) : undefined
