/** Which facts of a request a condition looks at: what an answer may be cached by. */
import { eachLeaf } from './condition'
import type { Condition, LeafKey } from './condition'
import type { Kind } from '../rulebook/kinds'

export const factGroups = [
  'person',
  'clock',
  'basket',
  'device',
  'country',
  'language',
  'address',
  'referrer',
  'query',
] as const
export type FactGroup = (typeof factGroups)[number]

const groupOf: Record<Exclude<LeafKey, 'everyone' | 'nobody' | 'audience' | 'opens'>, FactGroup> = {
  signedIn: 'person',
  level: 'person',
  role: 'person',
  permission: 'person',
  person: 'person',
  firm: 'person',
  bought: 'person',
  orders: 'person',
  spent: 'person',
  memberFor: 'person',
  fact: 'person',
  mine: 'person',
  assigned: 'person',
  record: 'person',
  basket: 'basket',
  date: 'clock',
  time: 'clock',
  weekday: 'clock',
  device: 'device',
  browser: 'device',
  country: 'country',
  region: 'country',
  language: 'language',
  address: 'address',
  referrer: 'referrer',
  query: 'query',
}

/** `follow` supplies the facts behind an audience or another thing's right. */
export interface Followed {
  audience(id: string): Iterable<FactGroup>
  opens(kind: Kind, id: string): Iterable<FactGroup>
}

export function looksAt(condition: Condition, followed: Followed): Set<FactGroup> {
  const groups = new Set<FactGroup>()
  const addAll = (more: Iterable<FactGroup>) => {
    for (const one of more) groups.add(one)
  }
  eachLeaf(condition, (key, argument) => {
    if (key === 'everyone' || key === 'nobody') return
    if (key === 'audience') return addAll(followed.audience(argument))
    if (key === 'opens') {
      const [kind, id] = Object.entries(argument)[0] as [Kind, string]
      return addAll(followed.opens(kind, id))
    }
    groups.add(groupOf[key])
  })
  return groups
}
