/**
 * Conditions that name a level or a role: with another that counts like it, and without it. Both are exact for everybody
 * who holds neither: what is true, false or not known of them stays so.
 */
import { eachLeaf, keyOf } from '../conditions/condition'
import type { Condition, LeafArgument } from '../conditions/condition'
import type { GroupRef } from './group-ref'

/** Whether it stands in the condition by its own id; not by way of an audience. */
export function namesIt(condition: Condition, { kind, id }: GroupRef): boolean {
  let found = false
  eachLeaf(condition, (key, argument: unknown) => {
    if (key === kind)
      found ||= Object.values(argument as object)
        .flat()
        .includes(id)
    if (key === 'memberFor') found ||= kind === 'level' && (argument as LeafArgument<'memberFor'>).level === id
  })
  return found
}

/** The condition with each leaf as `make` makes it; the very same where none of them differs. */
function mapLeaves(condition: Condition, make: (leaf: Condition) => Condition): Condition {
  const [key, argument] = keyOf(condition)
  if (key === 'not') {
    const part = mapLeaves(argument as Condition, make)
    return part === argument ? condition : { not: part }
  }
  if (key === 'all' || key === 'any') {
    const before = argument as Condition[]
    const parts = before.map(part => mapLeaves(part, make))
    return parts.every((part, i) => part === before[i]) ? condition : ({ [key]: parts } as Condition)
  }
  return make(condition)
}

/**
 * The same condition, in which `copy` counts as `of` does. A copied level ranks right above its original, so that
 * whatever asks for at least that one admits it already.
 */
export function besides(condition: Condition, of: GroupRef, copy: string): Condition {
  const added = (list: readonly string[]) =>
    list.includes(copy) ? [...list] : list.flatMap(id => (id === of.id ? [id, copy] : [id]))
  return mapLeaves(condition, leaf => {
    const [key, argument] = keyOf(leaf)
    if (of.kind === 'role' && key === 'role') {
      const roles = argument as LeafArgument<'role'>
      if ('anyOf' in roles) return roles.anyOf.includes(of.id) ? { role: { anyOf: added(roles.anyOf) } } : leaf
      if (!roles.allOf.includes(of.id)) return leaf
      return { any: [leaf, { role: { allOf: roles.allOf.map(id => (id === of.id ? copy : id)) } }] }
    }
    if (of.kind !== 'level') return leaf
    if (key === 'level') {
      const levels = argument as LeafArgument<'level'>
      if ('in' in levels) return levels.in.includes(of.id) ? { level: { in: added(levels.in) } } : leaf
      return 'atMost' in levels && levels.atMost === of.id ? { level: { atMost: copy } } : leaf
    }
    if (key === 'memberFor' && (argument as LeafArgument<'memberFor'>).level === of.id)
      return { any: [leaf, { memberFor: { ...(argument as LeafArgument<'memberFor'>), level: copy } }] }
    return leaf
  })
}

const nobody: Condition = { nobody: true }
const everyone: Condition = { everyone: true }

/**
 * The same condition once nobody holds `of`, and nobody can. `ranked`: ids of all levels from the lowest up. `none`: what
 * stands for whom nobody is. It must be false for whoever has no master key; where the key counts, it must be something
 * held, so that the key passes it as it passed what stood there.
 */
export function without(
  condition: Condition,
  of: GroupRef,
  ranked: readonly string[],
  none: Condition = nobody,
): Condition {
  const left = (list: readonly string[]) => list.filter(id => id !== of.id)
  const changed = mapLeaves(condition, leaf => {
    const [key, argument] = keyOf(leaf)
    if (of.kind === 'role' && key === 'role') {
      const roles = argument as LeafArgument<'role'>
      if ('allOf' in roles) return roles.allOf.includes(of.id) ? none : leaf
      if (!roles.anyOf.includes(of.id)) return leaf
      const others = left(roles.anyOf)
      return others.length ? { role: { anyOf: others } } : none
    }
    if (of.kind !== 'level') return leaf
    if (key === 'memberFor') return (argument as LeafArgument<'memberFor'>).level === of.id ? none : leaf
    if (key !== 'level') return leaf
    const levels = argument as LeafArgument<'level'>
    if ('in' in levels) {
      if (!levels.in.includes(of.id)) return leaf
      const others = left(levels.in)
      return others.length ? { level: { in: others } } : none
    }
    const at = ranked.indexOf(of.id)
    if ('atLeast' in levels) {
      if (levels.atLeast !== of.id) return leaf
      const above = ranked[at + 1]
      return above === undefined ? none : { level: { atLeast: above } }
    }
    if (levels.atMost !== of.id) return leaf
    const below = ranked[at - 1]
    return below === undefined ? none : { level: { atMost: below } }
  })
  return changed === condition ? condition : simpler(changed)
}

const isKey = (condition: Condition, key: 'nobody' | 'everyone') => key in condition

/** Without parts that decide nothing. In three values too: what is never true of an `any`, and always of an `all`, can go. */
function simpler(condition: Condition): Condition {
  const [key, argument] = keyOf(condition)
  if (key === 'not') {
    const part = simpler(argument as Condition)
    return isKey(part, 'nobody') ? everyone : isKey(part, 'everyone') ? nobody : { not: part }
  }
  if (key !== 'all' && key !== 'any') return condition
  const [ends, idle] = key === 'all' ? (['nobody', 'everyone'] as const) : (['everyone', 'nobody'] as const)
  const parts = (argument as Condition[]).map(simpler)
  const end = parts.find(part => isKey(part, ends))
  if (end) return end
  const kept = parts.filter(part => !isKey(part, idle))
  if (!kept.length) return key === 'all' ? everyone : nobody
  return kept.length === 1 ? kept[0]! : ({ [key]: kept } as Condition)
}
