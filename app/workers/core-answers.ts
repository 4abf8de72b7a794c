/** What the core answers the console: boards and explanations of live and draft, without the server. Keeps the world it was last told. */
import { cellAt, impactOf, moveOf, reachBoard } from '~~/core/audit/reach-board'
import type { BoardTier, Impact, ReachBoard } from '~~/core/audit/reach-board'
import { CompiledRules, thingsOf } from '~~/core/gates/compiled'
import { explain } from '~~/core/gates/explain'
import { CompiledDecider } from '~~/core/gates/compiled-decider'
import { PlainDecider } from '~~/core/gates/plain-decider'
import { explainLanding, landingFindings } from '~~/core/landings/explain-landing'
import { entriesOf, rulebookOf } from '~~/core/rulebook/rulebook'
import type { Rulebook } from '~~/core/rulebook/rulebook'
import type { Resource } from '~~/core/rulebook/kinds'
import { validateRulebook } from '~~/core/rulebook/validate'
import type { Visitor } from '~~/core/rulebook/visitor'
import type { Answers, Ask, BoardAnswer, Change, Context, GainsAnswer, LandingsAnswer, World } from './core-messages'

interface Reckoned {
  world: World
  nowMs: number
  tiers: BoardTier[]
  things: Resource[]
  live: ReachBoard
  draft: ReachBoard
  rules: { live: CompiledRules; draft: CompiledRules }
}
let reckoned: Reckoned | undefined

function inContext(visitor: Visitor, { at, country, device }: Context): Visitor {
  return {
    ...visitor,
    request: {
      ...visitor.request,
      ...(at ? { at } : {}),
      ...(country ? { country } : {}),
      ...(device ? { device } : {}),
    },
  }
}

function reckon(world: World): BoardAnswer {
  const started = performance.now()
  const nowMs = Date.now()
  const tiers = (world.draft.tiers ?? []).map(tier => ({
    id: tier.id,
    name: tier.name ?? tier.id,
    visitor: inContext(tier.visitor, world.context),
  }))
  const things = thingsOf(world.site)
  const rules = { live: new CompiledRules(world.live, world.site), draft: new CompiledRules(world.draft, world.site) }
  const live = reachBoard(rules.live, things, tiers, nowMs)
  const draft = reachBoard(rules.draft, things, tiers, nowMs)
  reckoned = { world, nowMs, tiers, things, live, draft, rules }
  return {
    tiers,
    things,
    live: spread(live),
    draft: spread(draft),
    weaves: draft.weaves,
    weaveCount: rules.draft.weaves.length,
    impact: impactOf(live, draft),
    issues: validateRulebook(world.draft, world.site),
    tookMs: performance.now() - started,
  }
}

function spread(board: ReachBoard): Uint8Array {
  const count = board.tiers.length
  const cells = new Uint8Array(board.things.length * count)
  for (let i = 0; i < board.things.length; i++)
    for (let t = 0; t < count; t++) cells[i * count + t] = cellAt(board, i, t)
  return cells
}

/** What each change alone would move, on top of what is live. */
function weigh(changes: Change[]): Impact[] {
  const { world, tiers, things, live, nowMs } = reckoned!
  return changes.map(change => {
    const rules = new CompiledRules(withChange(world.live, change), world.site)
    return impactOf(live, reachBoard(rules, things, tiers, nowMs))
  })
}

function withChange(book: Rulebook, { kind, key, after }: Change): Rulebook {
  const entries = entriesOf(book)
  const at = entries.findIndex(entry => entry.kind === kind && entry.key === key)
  const entry = { kind, key, body: after }
  if (at < 0) entries.push(entry)
  else entries.splice(at, 1, ...(after === null ? [] : [entry]))
  return rulebookOf(entries.filter(one => one.body !== null))
}

function bitsOf(rules: CompiledRules, visitor: Visitor, things: Resource[], nowMs: number): Uint8Array {
  const decider = new CompiledDecider(rules, visitor, nowMs)
  return Uint8Array.from(things, thing => decider.bits(thing))
}

function gains(rules: CompiledRules, things: Resource[], from: Visitor, to: Visitor, nowMs: number): GainsAnswer {
  const [before, after] = [bitsOf(rules, from, things, nowMs), bitsOf(rules, to, things, nowMs)]
  const moves = things.map((resource, i) => ({
    resource,
    before: before[i]!,
    after: after[i]!,
    move: moveOf(before[i]!, after[i]!),
  }))
  return {
    gained: moves.filter(one => one.move === 'gain' || one.move === 'other').map(({ move: _move, ...one }) => one),
    lost: moves.filter(one => one.move === 'lose').length,
  }
}

function landings({ which, visitor, on, refused }: Extract<Ask, { kind: 'landings' }>): LandingsAnswer {
  const { rules, tiers, nowMs, world } = reckoned!
  return {
    findings: landingFindings(rules[which], tiers, nowMs),
    explanation: visitor
      ? explainLanding(rules[which], inContext(visitor, world.context), on, nowMs, refused ?? undefined)
      : null,
  }
}

export function answerAsk(ask: Ask): Answers[Ask['kind']] {
  if (ask.kind === 'world') return reckon(ask.world)
  if (ask.kind === 'weigh') return weigh(ask.changes)
  const { rules, tiers, nowMs, things, world } = reckoned!
  if (ask.kind === 'person')
    return {
      things,
      bits: bitsOf(rules[ask.which], inContext(ask.visitor, world.context), things, nowMs),
      landing: explainLanding(rules[ask.which], inContext(ask.visitor, world.context), 'signIn', nowMs),
    }
  if (ask.kind === 'gains') return gains(rules[ask.which], things, ask.from, ask.to, nowMs)
  if (ask.kind === 'landings') return landings(ask)
  if (ask.kind === 'explainFor')
    return explain(new PlainDecider(rules[ask.which], inContext(ask.visitor, world.context), nowMs), ask.resource)
  const tier = tiers.find(one => one.id === ask.tier)
  return tier ? explain(new PlainDecider(rules[ask.which], tier.visitor, nowMs), ask.resource) : null
}
