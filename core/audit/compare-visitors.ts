/** What one visitor finds, opens or takes that another does not, and the gate that decides it. */
import { explain } from '../gates/explain'
import type { Explanation } from '../gates/explain'
import type { CompiledRules } from '../gates/compiled'
import { PlainDecider } from '../gates/plain-decider'
import { rightBit } from '../gates/verdict'
import { moduleOf, rights } from '../kinds/kinds'
import type { Resource, Right } from '../kinds/kinds'
import type { SiteIndex } from '../site/site-index'
import type { Visitor } from '../visitor/visitor'
import { cellAt, reachBoard } from './reach-board'

/** Why the other is refused a right: a gate; a kind that is shut until a gate opens it; or what a menu's item leads to. */
export type RefusedBy = { gate: string } | { closed: true } | { target: true }
/** A right only one of the two has, and why the other has it not. */
export interface RightOfOne {
  right: Right
  only: 'one' | 'two'
  by: RefusedBy
}
/** Things of which the two differ alike, for the same reasons: their positions in the list that was asked about. */
export interface ComparedThings {
  /** What the two may, as bits of a verdict. */
  one: number
  two: number
  differs: RightOfOne[]
  positions: number[]
}

const comparedRights = rights.reduce((bits, right) => bits | rightBit[right], 0)

/** Rights without which one is not had either. */
const standsOn: Record<Right, readonly Right[]> = {
  find: [],
  search: ['find'],
  open: [],
  price: ['open'],
  take: ['open', 'price'],
}

/**
 * Of `things` those of which the two visitors differ, by what they differ in. Decided once per weave, so that a
 * hundred thousand things take no longer than what stands before them differs. `nowMs`: milliseconds since 1970.
 */
export function compareVisitors(
  rules: CompiledRules,
  things: readonly Resource[],
  { one, two }: { one: Visitor; two: Visitor },
  nowMs: number,
): ComparedThings[] {
  const columns = [one, two].map((visitor, t) => ({ id: String(t), name: '', visitor }))
  const board = reachBoard(rules, things, columns, nowMs)
  const groups = new Map<string, ComparedThings>()
  const found: ComparedThings[] = []
  things.forEach((thing, at) => {
    const [a, b] = [cellAt(board, at, 0) & comparedRights, cellAt(board, at, 1) & comparedRights]
    if (a === b) return
    // Items of menus are decided alone, by what they lead to.
    const key = board.items.has(at) ? `item ${at}` : `${board.weaves[at]} ${thing.kind}`
    const known = groups.get(key)
    if (known) return void known.positions.push(at)
    const refused = (visitor: Visitor) => explain(new PlainDecider(rules, visitor, nowMs), thing)
    const [ofOne, ofTwo] = [a & ~b ? refused(two) : null, b & ~a ? refused(one) : null]
    const differs = rights.flatMap((right): RightOfOne[] => {
      const bit = rightBit[right]
      if ((a & bit) === (b & bit)) return []
      const only = a & bit ? 'one' : 'two'
      const explanation = only === 'one' ? ofOne : ofTwo
      return [{ right, only, by: (explanation && refusing(explanation, right)) ?? { target: true } }]
    })
    const group = { one: a, two: b, differs, positions: [at] }
    groups.set(key, group)
    found.push(group)
  })
  return found
}

/** What refuses a right: the innermost gate that does; else what the right, or the thing itself, stands on. */
function refusing(explanation: Explanation, right: Right): RefusedBy | null {
  const gate = explanation.gates.findLast(
    one =>
      !one.off && !one.asleep && one.rights.some(said => said.right === right && said.inForce && said.value !== true),
  )
  if (gate) return { gate: gate.id }
  for (const under of standsOn[right]) {
    const found = explanation.verdict[under] ? null : refusing(explanation, under)
    if (found) return found
  }
  if (explanation.closed || explanation.standsNowhere) return { closed: true }
  return explanation.standsIn ? refusing(explanation.standsIn, 'open') : null
}

/** Whether a thing is `holder`, lies in it or stands in it, however deep. */
export function isWithin(thing: Resource, holder: Resource, index: SiteIndex): boolean {
  if (thing.kind === holder.kind && thing.id === holder.id) return true
  const module = moduleOf(thing.kind)
  const found = index.find(thing) as never
  if (!found) return false
  const ways = module.ways?.(found, index) ?? []
  if (ways.some(way => way.some(place => place.on === holder.kind && place.id === holder.id))) return true
  const place = module.standsIn?.(found, thing)
  return place !== undefined && place !== 'open' && isWithin(place as Resource, holder, index)
}
