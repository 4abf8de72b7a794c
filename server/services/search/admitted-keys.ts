/** What of the pieces that are found whoever looks is admitted to, by the names of weaves. */
import { sql } from 'drizzle-orm'
import { LRUCache } from 'lru-cache'
import type { Condition } from '../../../core/conditions/condition'
import { thingsOf } from '../../../core/gates/compiled'
import type { CompiledRules } from '../../../core/gates/compiled'
import { weaveName } from '../../../core/gates/weave-name'
import { rightBit } from '../../../core/gates/verdict'
import type { Resource } from '../../../core/kinds/kinds'
import type { AnyDb } from '../../db/database'
import { searchKey } from '../../db/schema'
import { weaveHash } from './index-texts'
import type { Key } from './index-texts'
import type { SearchAsk } from './search-ask'

export interface Standing {
  id: string
  in?: { block?: string }
}

/** Keys as they are kept, read again where they moved. */
const keptKeys = new LRUCache<string, readonly (Key & { key: number })[]>({ max: 4 })

/** The keys of pieces that this visitor is admitted to. */
export async function admittedKeys(tx: AnyDb, { snapshot, decider }: SearchAsk): Promise<number[]> {
  const { rules } = snapshot
  const examples = examplesOf(rules)
  const admitted = new Map<string, boolean>()
  const once = (name: string, decide: () => boolean) => {
    let known = admitted.get(name)
    if (known === undefined) admitted.set(name, (known = decide()))
    return known
  }
  const has = (weave: string, right: 'search' | 'open' | 'take') =>
    once(`${right} ${weave}`, () => {
      const example = examples.get(weave)
      return example !== undefined && (decider.bits(example) & rightBit[right]) !== 0
    })
  const within = (text: string) =>
    text === '[]' || once(text, () => (JSON.parse(text) as Condition[]).every(one => decider.admitsOrKey(one)))
  return (await keysOf(tx))
    .filter(({ found, shows, need, within: whom }) => {
      // What is shared in many places is found where it is shown.
      const isFound = found === '' || has(found, 'search')
      return isFound && has(shows, need) && within(whom)
    })
    .map(one => one.key)
}

export async function keysOf(tx: AnyDb): Promise<readonly (Key & { key: number })[]> {
  const [row] = await tx.execute<{ state: string }>(
    sql`select current_database() || coalesce((select extract(epoch from changed_at)::text from setting where "group" = 'search-index'), '') as state`,
  )
  const known = keptKeys.get(row!.state)
  if (known) return known
  const rows = await tx.select().from(searchKey)
  keptKeys.set(row!.state, rows)
  return rows
}

/** A thing of each weave, by the name of the weave; made once for the rules of an edition. */
const madeExamples = new WeakMap<CompiledRules, Map<string, Resource>>()

function examplesOf(rules: CompiledRules): ReadonlyMap<string, Resource> {
  let made = madeExamples.get(rules)
  if (!made) {
    made = new Map()
    for (const thing of thingsOf(rules.index)) rules.weaveOf(thing)
    for (const { example } of rules.weaves)
      if (weaveName(example, rules) !== undefined) made.set(weaveHash(example, rules), example)
    madeExamples.set(rules, made)
  }
  return made
}
