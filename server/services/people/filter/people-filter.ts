/**
 * A condition of the rules as SQL over `person`, so that a hundred thousand
 * people are sifted by the database. SQL's own logic has the three values the
 * rules have: NULL is unknown. What depends on no person is read by the core.
 */
import { sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import { CompiledDecider } from '../../../../core/gates/compiled-decider'
import type { CompiledRules } from '../../../../core/gates/compiled'
import { keyOf } from '../../../../core/conditions/condition'
import type { Condition } from '../../../../core/conditions/condition'
import { Problem } from '../../../problem'
import { sqlOfLeaf } from './leaves'
import { combined, joined, no, unknown, yes } from './sql'

export interface FilterWorld {
  rules: CompiledRules
  nowMs: number
  /** What words are looked for in, where it is not both. */
  search?: 'name' | 'address'
}

/** True, false or null for each row of `person`. Throws `bad-input` for what cannot be asked of a list of people. */
export function conditionSql(condition: Condition, world: FilterWorld): SQL {
  return new Translation(world).of(condition, false)
}

/** True exactly where the condition is; false or null elsewhere. What only has to be true can be looked up in an index. */
export function admittedSql(condition: Condition, world: FilterWorld): SQL {
  return new Translation(world).of(condition, true)
}

/**
 * The ids of everybody a condition is true for, as sets that are joined, met
 * and taken from each other, without looking at each person; an id may come
 * twice. Null where a part of the condition has no such set, such as the clock.
 */
export function idsSql(condition: Condition, world: FilterWorld): SQL | null {
  return new Translation(world).ids(condition)
}

class Translation {
  private readonly nobody: CompiledDecider

  constructor(private readonly world: FilterWorld) {
    const at = new Date(world.nowMs).toISOString()
    // Somebody signed in who holds nothing: answers whatever does not look at the person.
    this.nobody = new CompiledDecider(world.rules, { person: { id: '' }, request: { at } }, world.nowMs)
  }

  /** `onlyTrue`: whether false and unknown may be mixed up here, as outside of any `not`. */
  of(condition: Condition, onlyTrue: boolean): SQL {
    const [key, argument] = keyOf(condition) as unknown as [string, never]
    if (key === 'all') return joined(argument as Condition[], 'and', yes, part => this.of(part, onlyTrue))
    if (key === 'any') return joined(argument as Condition[], 'or', no, part => this.of(part, onlyTrue))
    if (key === 'not') return sql`(not ${this.of(argument, false)})`
    const asked = this.asked(key)
    if (asked === 'same for all') return this.constant(condition)
    if (asked === 'audience') {
      const is = this.audience(argument)
      return is ? this.of(is, onlyTrue) : unknown
    }
    return (onlyTrue && asked.admitted?.(argument, this.world)) || asked.is(argument, this.world)
  }

  private asked(key: string) {
    const asked = sqlOfLeaf(key)
    if (asked && typeof asked === 'object' && 'refused' in asked)
      throw new Problem('not-asked-of-people', { what: asked.refused })
    if (!asked) throw new Problem('not-asked-of-people', { what: 'this' })
    return asked
  }

  private constant(condition: Condition): SQL {
    const { rules } = this.world
    if (this.nobody.admits(condition)) return yes
    return new CompiledDecider(rules, this.nobody.visitor, this.world.nowMs).admits({ not: condition }) ? no : unknown
  }

  private audience(id: string): Condition | undefined {
    return this.world.rules.rulebook.audiences?.find(one => one.id === id)?.is
  }

  /** See `idsSql`. */
  ids(condition: Condition): SQL | null {
    const [key, argument] = keyOf(condition) as unknown as [string, never]
    if (key === 'all') return this.meeting(argument)
    if (key === 'any')
      return combined(
        (argument as Condition[]).map(part => this.ids(part)),
        'union',
      )
    if (key === 'not') return null
    const asked = this.asked(key)
    if (asked === 'same for all') return null
    if (asked === 'audience') {
      const is = this.audience(argument)
      return is ? this.ids(is) : null
    }
    return asked.ids?.(argument, this.world) ?? null
  }

  /** What all parts have in common, without what their `not`s name. */
  private meeting(parts: readonly Condition[]): SQL | null {
    const refused = parts.filter(part => 'not' in part).map(part => (part as { not: Condition }).not)
    if (refused.some(part => !this.isTwoValued(part))) return null
    const met = combined(
      parts.filter(part => !('not' in part)).map(part => this.ids(part)),
      'intersect',
    )
    if (!met || !refused.length) return met
    const gone = combined(
      refused.map(part => this.ids(part)),
      'union',
    )
    return gone && sql`(${met}) except (${gone})`
  }

  private isTwoValued(condition: Condition): boolean {
    const [key, argument] = keyOf(condition) as unknown as [string, never]
    if (key === 'any' || key === 'all') return (argument as Condition[]).every(part => this.isTwoValued(part))
    const asked = key === 'not' ? undefined : this.asked(key)
    return typeof asked === 'object' && asked.twoValued === true
  }
}
