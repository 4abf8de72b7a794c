/** Which parts of a request a condition looks at: what an answer may be kept by. */
import { eachLeaf } from './condition'
import type { Condition } from './condition'
import type { Kind } from '../kinds/kinds'
import type { FactGroup } from '../visitor/fact-group'
import { only } from './leaves/shapes'
import { leafOf } from './leaves/leaves'

/** Supplies the facts behind an audience or another thing's right. */
export interface Followed {
  audience(id: string): Iterable<FactGroup>
  opens(kind: Kind, id: string): Iterable<FactGroup>
  /** What a fact comes from, besides whose it is. */ fact(id: string): Iterable<FactGroup>
}

export function looksAt(condition: Condition, followed: Followed): Set<FactGroup> {
  const groups = new Set<FactGroup>()
  const addAll = (more: Iterable<FactGroup>) => {
    for (const one of more) groups.add(one)
  }
  eachLeaf(condition, (key, argument) => {
    if (key === 'audience') return addAll(followed.audience(argument))
    if (key === 'opens') {
      const [kind, id] = only(argument)
      return addAll(followed.opens(kind as Kind, id))
    }
    if (key === 'fact') addAll(followed.fact((argument as { name: string }).name))
    const group = leafOf(key)?.looksAt
    if (group) groups.add(group)
  })
  return groups
}
