/** What the core knows in its worker: the world it was last told, live and in the draft, and how it is reached. */
import { alignedTo, impactOf, reachBoard, sharesByKind } from '~~/core/audit/reach-board'
import type { BoardTier, ReachBoard } from '~~/core/audit/reach-board'
import { validateRulebook } from '~~/core/check/validate'
import { Contents } from '~~/core/editions/contents'
import type { Version } from '~~/core/editions/contents'
import { CompiledRules, thingsOf } from '~~/core/gates/compiled'
import { CompiledDecider } from '~~/core/gates/compiled-decider'
import type { Resource } from '~~/core/kinds/kinds'
import { kindNames } from '~~/core/sentences/words'
import { asIfAll } from '~~/core/visitor/as-if'
import type { Visitor } from '~~/core/visitor/visitor'
import { described, wordsIn } from '~/kinds/described'
import { answersOf } from './answering'
import type { BoardTold, Context, Which, World, WorldAnswer, WorldQuestions } from './questions'
import { takeContents } from './told-contents'

/** One side: what it says, and what follows from that, worked out when it is first asked for. */
export class Side {
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
/** The world as it was reckoned: what the answers of all rooms are made from. */
export interface Reckoned {
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

/** The world at hand; nothing is asked before one was told. */
export function worldNow(): Reckoned {
  if (!reckoned) throw new Error('The core was not told of any site yet.')
  return reckoned
}

export function inContext(visitor: Visitor, { at, country, device }: Context): Visitor {
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
export const looked = (): ReadonlySet<string> => new Set(worldNow().context.looks.map(one => one.id))

/** What the screen was told last of the boards: it is not told again. */
let told: { things: readonly Resource[]; live: ReachBoard; weaves: Int32Array } | undefined
function tellBoard(): BoardTold {
  const started = performance.now()
  const { tiers, things, live, draft, sound } = worldNow()
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
export function find(text: string, most = Infinity): Uint32Array {
  const { things, draft } = worldNow()
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

/** What a visitor reaches of each of these. */
export function bitsOf(rules: CompiledRules, visitor: Visitor, things: Resource[], nowMs: number): Uint8Array {
  const decider = new CompiledDecider(rules, visitor, nowMs)
  return Uint8Array.from(things, thing => decider.bits(thing))
}

export const sideAsked = (which: Which): Side => worldNow()[which]
export const tierAsked = (id: string): BoardTier | undefined => worldNow().tiers.find(tier => tier.id === id)

export const worldAnswers = answersOf<WorldQuestions>('world', {
  // What the server said of the site comes as the text it was, for a world that does not say it itself.
  world: (world, start) => reckon(world, world.live ?? (JSON.parse(start ?? '{}') as NonNullable<World['live']>)),
  board: tellBoard,
  draft({ put, drop }) {
    const { live, draft, context } = worldNow()
    const dropped = drop.map(
      ({ kind, key }): Version => live.contents.get(kind, key) ?? { kind, key, position: 0, body: null },
    )
    reckonDraft(live.contents, draft.contents.with([...dropped, ...put]), { context, nowMs: Date.now() })
    return tellBoard()
  },
  find: ({ text, most }) => find(text, most),
  contents: takeContents,
})
