/** Gates that ask `opens` of something that, in the end, asks for what they stand before. */
import { keyOf, eachLeaf } from '../conditions/condition'
import type { Condition } from '../conditions/condition'
import { issue } from '../errors'
import type { Issue } from '../errors'
import { chainKey, chainOf, GateIndex, gatesOf } from '../gates/chain'
import type { SiteIndex } from '../site/site-index'
import type { Kind, Resource } from '../kinds/kinds'
import type { Rulebook } from '../rulebook/rulebook'

/** Only what some gate asks for can lie on a ring, so only those things are looked at. */
export function opensRings(rulebook: Rulebook, index: SiteIndex): Issue[] {
  const audiences = new Map((rulebook.audiences ?? []).map(one => [one.id, one.is]))
  const asked = (rulebook.gates ?? []).map(gate => (gate.open ? askedBy(gate.open, audiences) : []))
  const targets = new Map(asked.flat().map(one => [chainKey(one), one]))
  if (targets.size === 0) return []
  const gates = new GateIndex(rulebook)
  const edges = new Map<string, Map<string, Set<number>>>()
  for (const [key, resource] of targets) edges.set(key, edgesFrom(resource, gates, index, asked))
  const reachable = new Map([...edges].map(([key]) => [key, reach(key, edges)]))
  const guilty = new Set<number>()
  for (const [from, out] of edges) {
    for (const [to, orders] of out)
      if (to === from || reachable.get(to)?.has(from)) for (const order of orders) guilty.add(order)
  }
  return [...guilty].sort((a, b) => a - b).map(order => issue(`/gates/${order}/open`, 'opens-ring'))
}

function askedBy(condition: Condition, audiences: Map<string, Condition>, seen = new Set<string>()): Resource[] {
  const found: Resource[] = []
  eachLeaf(condition, (key, argument) => {
    if (key === 'opens') {
      const [kind, id] = keyOf(argument)
      found.push({ kind: kind as unknown as Kind, id: id as string })
    }
    if (key !== 'audience' || seen.has(argument)) return
    seen.add(argument)
    const next = audiences.get(argument)
    if (next) found.push(...askedBy(next, audiences, seen))
  })
  return found
}

function edgesFrom(
  resource: Resource,
  gates: GateIndex,
  index: SiteIndex,
  asked: Resource[][],
): Map<string, Set<number>> {
  const out = new Map<string, Set<number>>()
  const passed = new Set<string>()
  for (let at: Resource | undefined = resource; at && !passed.has(chainKey(at));) {
    passed.add(chainKey(at))
    const chain = chainOf(at, gates, index)
    if (!chain) break
    for (const { order } of gatesOf(chain)) {
      for (const target of asked[order]!) out.set(chainKey(target), (out.get(chainKey(target)) ?? new Set()).add(order))
    }
    at = chain.standsIn === 'open' ? undefined : chain.standsIn
  }
  return out
}

function reach(from: string, edges: Map<string, Map<string, Set<number>>>): Set<string> {
  const seen = new Set<string>()
  const open = [from]
  while (open.length) {
    for (const next of edges.get(open.pop()!)?.keys() ?? []) {
      if (seen.has(next)) continue
      seen.add(next)
      open.push(next)
    }
  }
  return seen
}
