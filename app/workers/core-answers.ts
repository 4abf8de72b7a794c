/** What the core answers the console: boards and explanations of live and draft, without the server. Keeps the world it was last told. */
import { alignedTo, impactOf, moveOf, reachBoard, sharesByKind } from '~~/core/audit/reach-board'
import type { BoardTier, ReachBoard } from '~~/core/audit/reach-board'
import { CompiledRules, thingsOf } from '~~/core/gates/compiled'
import { explain } from '~~/core/gates/explain'
import { kindNames } from '~~/core/sentences/words'
import { described } from '~/composables/reach-rows'
import { CompiledDecider } from '~~/core/gates/compiled-decider'
import { PlainDecider } from '~~/core/gates/plain-decider'
import { findingGroups, findingsOf } from '~~/core/audit/findings/findings'
import { explainLanding } from '~~/core/landings/explain-landing'
import { belongings } from '~~/core/editions/belongings'
import { Contents, nameOf } from '~~/core/editions/contents'
import type { Version } from '~~/core/editions/contents'
import type { Resource } from '~~/core/kinds/kinds'
import { givingOf, withGate } from '~~/core/gates/giving'
import { validateRulebook } from '~~/core/check/validate'
import { compareVisitors, isWithin } from '~~/core/audit/compare-visitors'
import { coverageOf } from '~~/core/audit/coverage'
import { idleGates } from '~~/core/audit/idle-gates'
import { invertedCopies } from '~~/core/audit/inverted-copies'
import { waysIn } from '~~/core/audit/ways-in'
import { asIfAll } from '~~/core/visitor/as-if'
import type { Visitor } from '~~/core/visitor/visitor'
import { pageAnswer, takeContents } from './page-answer'
import { answerPrices } from './prices-answer'
import { isPricesAsk } from './prices-messages'
import { answerTaxes } from './taxes-answer'
import { isTaxesAsk } from './taxes-messages'
import { wordsIn } from '../composables/site-rows'
import type {
  Answers,
  Ask,
  BoardTold,
  CompareAnswer,
  Context,
  GainsAnswer,
  GivingAnswer,
  LandingsAnswer,
  PageAnswer,
  WeighAnswer,
  Which,
  World,
  WorldAnswer,
} from './core-messages'

/** One side: what it says, and what follows from that, worked out when it is first asked for. */
class Side {
  private made: { rules?: CompiledRules; board?: ReachBoard } = {}

  /** `earlier`: sides whose work holds here too, where they are alike. */
  constructor(
    readonly contents: Contents,
    readonly things: readonly Resource[],
    private readonly tiers: BoardTier[],
    private readonly nowMs: number,
    private earlier: readonly (Side | undefined)[] = [],
  ) {}

  private get like(): Side | undefined {
    return this.earlier.find(one => one?.contents.index === this.contents.index)
  }

  /** One that says the same of what rules see, however its words differ. */
  private get same(): Side | undefined {
    return this.like?.contents.book === this.contents.book ? this.like : undefined
  }

  get rules(): CompiledRules {
    return (this.made.rules ??=
      this.same?.rules ?? new CompiledRules(this.contents.book, this.contents.index, this.like?.rules))
  }

  get board(): ReachBoard {
    if (this.made.board) return this.made.board
    const { like, same, rules } = this
    this.made.board =
      same?.things === this.things && same.tiers === this.tiers
        ? same.board
        : reachBoard(rules, this.things, this.tiers, this.nowMs, like)
    // What came before is needed no more, and would be kept by what comes after.
    this.earlier = []
    return this.made.board
  }
}
interface Reckoned {
  context: Context
  nowMs: number
  tiers: BoardTier[]
  things: Resource[]
  live: Side
  draft: Side
  /** Entries whose shape is right. */
  sound: WeakSet<object>
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

function tiersOf(contents: Contents, context: Context, nowMs: number): BoardTier[] {
  const tiers = (contents.book.tiers ?? []).map(tier => ({
    id: tier.id,
    name: tier.name ?? tier.id,
    visitor: inContext(tier.visitor, context),
  }))
  const clock = { nowMs, timezone: contents.index.site.timezone }
  const looked = context.looks.flatMap(({ id, parts, tier, name, visitor }) => {
    const base = visitor
      ? { name: name ?? id, visitor: inContext(visitor, context) }
      : tiers.find(one => one.id === tier)
    if (!base) return []
    return {
      id,
      name: parts.length ? `${base.name} (as\u00A0if)` : base.name,
      visitor: asIfAll(base.visitor, parts, clock),
    }
  })
  return [...tiers, ...looked]
}

/** Of a new world only whom it is looked at as: the boards take a while, and a page does not wait for them. */
function reckon({ draft, context }: World, { frame, versions }: NonNullable<World['live']>): WorldAnswer {
  reckoned = undefined
  told = undefined
  const base = new Contents(versions, frame)
  reckonDraft(base, base.with(draft), { context, nowMs: Date.now() })
  return { tiers: reckoned!.tiers }
}

/** What is live is kept, with its board, for as long as tiers and things are the same. */
function reckonDraft(
  base: Contents,
  contents: Contents,
  { context, nowMs }: { context: Context; nowMs: number },
): void {
  const before = reckoned
  const tiersNow = tiersOf(contents, context, nowMs)
  const things = before && before.draft.contents.index === contents.index ? before.things : thingsOf(contents.index)
  const sameTiers = before && JSON.stringify(before.tiers) === JSON.stringify(tiersNow)
  const tiers = sameTiers ? before.tiers : tiersNow
  const isSame = sameTiers && before.things === things
  const live = sameTiers
    ? before.live
    : new Side(base, contents.index === base.index ? things : thingsOf(base.index), tiers, nowMs)
  const draft = new Side(contents, things, tiers, nowMs, [isSame ? before.draft : undefined, live])
  reckoned = { context, nowMs, tiers, things, live, draft, sound: before?.sound ?? new WeakSet() }
}

/** Columns that are looked at for a while: what moves for them is nobody's news. */
const looked = (): ReadonlySet<string> => new Set(reckoned!.context.looks.map(one => one.id))

/** What the screen was told last of the boards: it is not told again. */
let told: { things: readonly Resource[]; live: ReachBoard; weaves: Int32Array } | undefined
function tellBoard(): BoardTold {
  const started = performance.now()
  const { tiers, things, live, draft, sound } = reckoned!
  const liveAnew = told?.live !== live.board || told.things !== things
  const answer = {
    tiers,
    things: told?.things === things ? null : things,
    live: liveAnew ? { byWeave: live.board.cells, ...alignedTo(live.board, things) } : null,
    draft: {
      byWeave: draft.board.cells,
      items: draft.board.items,
      weaves: told?.weaves === draft.board.weaves ? null : draft.board.weaves,
    },
    shares: { live: liveAnew ? sharesByKind(live.board) : null, draft: sharesByKind(draft.board) },
    weaveCount: draft.rules.weaves.length,
    impact: impactOf(live.board, draft.board, looked()),
    issues: validateRulebook(draft.contents.book, draft.contents.index, sound),
    tookMs: performance.now() - started,
  }
  told = { things, live: live.board, weaves: draft.board.weaves }
  return answer
}

/** What each thing is called and where it stands, in small letters; read once for a site. */
const texts = new WeakMap<readonly Resource[], string[]>()
function find(text: string, most = Infinity): Uint32Array {
  const { things, draft } = reckoned!
  let named = texts.get(things)
  if (!named) {
    named = things.map(thing => {
      const { title, note } = described(thing, draft.contents.index)
      return `${title} ${kindNames[thing.kind]} ${note} ${thing.id}`.toLowerCase()
    })
    texts.set(things, named)
  }
  const words = wordsIn(text)
  const found: number[] = []
  for (let i = 0; i < things.length && found.length < most; i++)
    if (words.every(word => named[i]!.includes(word))) found.push(i)
  return Uint32Array.from(found)
}

const mostWeighed = 300
/** What each change alone would move, on top of what is live, and what the chosen ones move together. */
function weigh(changes: readonly Version[], chosen: readonly string[]): WeighAnswer {
  const { live, tiers, nowMs } = reckoned!
  const impact = (versions: readonly Version[]) => {
    const contents = live.contents.with(versions)
    const things = contents.index === live.contents.index ? live.board.things : thingsOf(contents.index)
    return impactOf(live.board, new Side(contents, things, tiers, nowMs, [live]).board, looked())
  }
  const wanted = new Set(chosen)
  const picked = changes.filter(one => wanted.has(nameOf(one)))
  return {
    // Of very many nobody reads what each moves alone.
    each: changes.length > mostWeighed ? [] : changes.map(one => impact([one])),
    chosen: impact(picked),
    together: [...belongings(changes, live.contents).together(chosen)],
  }
}

function bitsOf(rules: CompiledRules, visitor: Visitor, things: Resource[], nowMs: number): Uint8Array {
  const decider = new CompiledDecider(rules, visitor, nowMs)
  return Uint8Array.from(things, thing => decider.bits(thing))
}

function gains(rules: CompiledRules, things: Resource[], from: Visitor, to: Visitor, nowMs: number): GainsAnswer {
  return gainsBetween(bitsOf(rules, from, things, nowMs), bitsOf(rules, to, things, nowMs), things)
}

function gainsBetween(before: Uint8Array, after: Uint8Array, things: readonly Resource[]): GainsAnswer {
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

function giving({ resource, visitor, ...ask }: Extract<Ask, { kind: 'giving' }>): GivingAnswer {
  const { draft, nowMs, context, things } = reckoned!
  const asked = inContext(visitor, context)
  const answer = givingOf(draft.rules, resource, { ...ask, visitor: asked }, nowMs)
  if (answer.state !== 'can' || !answer.wide) return answer
  const wider = new CompiledRules(withGate(draft.contents.book, answer.wide), draft.contents.index, draft.rules)
  const { gained } = gainsBetween(
    bitsOf(draft.rules, asked, things, nowMs),
    bitsOf(wider, asked, things, nowMs),
    things,
  )
  return {
    ...answer,
    besides: gained.filter(one => one.resource.id !== resource.id || one.resource.kind !== resource.kind).length,
  }
}

function compare(ask: Extract<Ask, { kind: 'compare' }>): CompareAnswer | null {
  const { tiers, nowMs, things } = reckoned!
  const [one, two] = [ask.one, ask.two].map(id => tiers.find(tier => tier.id === id)?.visitor)
  if (!one || !two) return null
  const { rules } = sideAsked(ask.which)
  const named = ask.text.trim() ? new Set(find(ask.text)) : null
  const isAsked = (thing: Resource, at: number) =>
    (!ask.of || thing.kind === ask.of) &&
    (!named || named.has(at)) &&
    (!ask.within || isWithin(thing, ask.within, rules.index))
  const among = things.flatMap((thing, at) => (isAsked(thing, at) ? [at] : []))
  const groups = compareVisitors(
    rules,
    among.map(at => things[at]!),
    { one, two },
    nowMs,
  ).map(group => ({ ...group, positions: group.positions.map(i => among[i]!) }))
  return { groups, among: among.length }
}

const sideAsked = (which: Which) => reckoned![which]

function landings({ which, visitor, on, refused }: Extract<Ask, { kind: 'landings' }>): LandingsAnswer {
  const { tiers, nowMs, context } = reckoned!
  const { rules } = sideAsked(which)
  return {
    findings: findingsOf({ rules, tiers, nowMs }, findingGroups.landings),
    explanation: visitor ? explainLanding(rules, inContext(visitor, context), on, nowMs, refused ?? undefined) : null,
  }
}

/** `start`: the text of what the server said of the site, for a world that does not say it itself. */
export function answerAsk(ask: Ask, start?: string): Answers[Ask['kind']] | Promise<PageAnswer> {
  if (ask.kind === 'contents') {
    takeContents(ask.contents)
    return null
  }
  if (ask.kind === 'world')
    return reckon(ask.world, ask.world.live ?? (JSON.parse(start ?? '{}') as NonNullable<World['live']>))
  const { tiers, nowMs, things, context, live } = reckoned!
  if (ask.kind === 'draft') {
    const dropped = ask.drop.map(
      ({ kind, key }): Version => live.contents.get(kind, key) ?? { kind, key, position: 0, body: null },
    )
    const contents = reckoned!.draft.contents.with([...dropped, ...ask.put])
    reckonDraft(live.contents, contents, { context, nowMs: Date.now() })
    return tellBoard()
  }
  if (ask.kind === 'board') return tellBoard()
  if (ask.kind === 'find') return find(ask.text, ask.most)
  if (ask.kind === 'giving') return giving(ask)
  if (ask.kind === 'weigh') return weigh(ask.changes, ask.chosen)
  if (isPricesAsk(ask)) return answerPrices(ask, { ...reckoned!, tiers, nowMs })
  if (isTaxesAsk(ask)) return answerTaxes(ask, { ...reckoned!, tiers, nowMs })
  const { rules } = sideAsked(ask.which)
  if (ask.kind === 'person')
    return {
      things,
      bits: bitsOf(rules, inContext(ask.visitor, context), things, nowMs),
      landing: explainLanding(rules, inContext(ask.visitor, context), 'signIn', nowMs),
    }
  if (ask.kind === 'gains') return gains(rules, things, ask.from, ask.to, nowMs)
  if (ask.kind === 'landings') return landings(ask)
  if (ask.kind === 'compare') return compare(ask)
  if (ask.kind === 'explainFor')
    return explain(new PlainDecider(rules, inContext(ask.visitor, context), nowMs), ask.resource)
  if (ask.kind === 'coverage') return coverageOf(rules, ask, nowMs)
  if (ask.kind === 'idle') return idleGates(rules, ask.resource, nowMs)
  if (ask.kind === 'inverted') return invertedCopies(rules, ask.place, nowMs)
  const tier = tiers.find(one => one.id === ask.tier)
  if (ask.kind === 'pageView') return tier ? pageAnswer(sideAsked(ask.which), tier.visitor, nowMs, ask) : null
  if (ask.kind === 'ways') return tier ? waysIn(rules, tier.visitor, ask.resource, nowMs) : []
  return tier ? explain(new PlainDecider(rules, tier.visitor, nowMs), ask.resource) : null
}
