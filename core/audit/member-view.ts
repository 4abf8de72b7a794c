/** What one person's standing gives them: what is theirs, what opens soon, what more would open. */
import { addDuration, localInstant } from '../calendar'
import { eachLeaf } from '../conditions/condition'
import { CompiledDecider } from '../gates/compiled-decider'
import type { CompiledRules } from '../gates/compiled'
import { rightBit } from '../gates/verdict'
import type { Visitor } from '../visitor/visitor'
import type { Level } from '../rulebook/people-rules'

/** Pages with all of these rights, in the order of the site. */
function pagesWith(rightBits: number, rules: CompiledRules, visitor: Visitor, atMs: number): Set<string> {
  const decider = new CompiledDecider(
    rules,
    { ...visitor, request: { ...visitor.request, at: new Date(atMs).toISOString() } },
    atMs,
  )
  return new Set(
    (rules.index.site.pages ?? [])
      .filter(page => (decider.bits({ kind: 'page', id: page.id }) & rightBits) === rightBits)
      .map(page => page.id),
  )
}

/** Pages that open in full and show in lists. */
const openPages = (rules: CompiledRules, visitor: Visitor, atMs: number) =>
  pagesWith(rightBit.open | rightBit.find, rules, visitor, atMs)

/** Pages known of now that do not open now: of what cannot be found, nobody is told beforehand. */
function glimpsed(rules: CompiledRules, visitor: Visitor, nowMs: number): Set<string> {
  const open = pagesWith(rightBit.open, rules, visitor, nowMs)
  return new Set([...pagesWith(rightBit.find, rules, visitor, nowMs)].filter(id => !open.has(id)))
}

const without = (all: Iterable<string>, some: ReadonlySet<string>) => [...all].filter(id => !some.has(id))

/** Pages a person opens and somebody who only signed in does not. */
export function ownPages(rules: CompiledRules, visitor: Visitor, nowMs: number): string[] {
  const bare: Visitor = { person: visitor.person ?? null, ...(visitor.request ? { request: visitor.request } : {}) }
  return without(openPages(rules, visitor, nowMs), openPages(rules, bare, nowMs))
}

/** What grants something: a level or a role of one's own, what the firm shares, or only several things together. */
export type Grant = { level: string } | { role: string } | { firm: string } | { together: true }
export interface Shared {
  levels: readonly string[]
  roles: readonly string[]
}

/**
 * The same pages by what grants each: the first that would do alone, levels from the lowest, then the firm, then
 * roles. `shared`: what of it is the firm's.
 */
export function ownPagesBy(
  rules: CompiledRules,
  visitor: Visitor,
  nowMs: number,
  shared: Shared = { levels: [], roles: [] },
): { by: Grant; pages: string[] }[] {
  const bare: Visitor = { person: visitor.person ?? null, ...(visitor.request ? { request: visitor.request } : {}) }
  const rank = (level: string) => rules.holdings.ranks.get(level) ?? 0
  const levels = [...(visitor.levels ?? [])].sort((a, b) => rank(a.level) - rank(b.level))
  // A level the firm has too stands twice among those held; one of them is its own.
  const left = [...shared.levels]
  const own = levels.filter(held => {
    const at = left.indexOf(held.level)
    if (at >= 0) left.splice(at, 1)
    return at < 0
  })
  const firm = visitor.firm
    ? [
        {
          by: { firm: visitor.firm } as Grant,
          as: {
            ...bare,
            firm: visitor.firm,
            ...(visitor.firmFacts ? { firmFacts: visitor.firmFacts } : {}),
            levels: levels.filter(held => shared.levels.includes(held.level)),
            roles: [...shared.roles],
          },
        },
      ]
    : []
  const grants: { by: Grant; as: Visitor }[] = [
    ...own.map(held => ({ by: { level: held.level }, as: { ...bare, levels: [held] } })),
    ...firm,
    ...(visitor.roles ?? [])
      .filter(role => !shared.roles.includes(role))
      .map(role => ({ by: { role }, as: { ...bare, roles: [role] } })),
  ]
  let rest = ownPages(rules, visitor, nowMs)
  const found = grants.flatMap(({ by, as }) => {
    const opens = openPages(rules, as, nowMs)
    const pages = rest.filter(id => opens.has(id))
    rest = rest.filter(id => !opens.has(id))
    return pages.length ? [{ by, pages }] : []
  })
  return rest.length ? [...found, { by: { together: true }, pages: rest }] : found
}

export interface OpensSoon {
  page: string
  /** Milliseconds since 1970. */ at: number
}

/**
 * Pages that are glimpsed now and will open within `days`, with the instant, soonest
 * first. Looked at are the days rules name, starts of levels, and the ends of
 * waiting times.
 */
export function opensSoon(rules: CompiledRules, visitor: Visitor, nowMs: number, days = 60): OpensSoon[] {
  const waiting = glimpsed(rules, visitor, nowMs)
  const found = new Map<string, number>()
  for (const at of turningPoints(rules, visitor, nowMs, nowMs + days * 86_400_000)) {
    for (const page of openPages(rules, visitor, at)) if (waiting.has(page) && !found.has(page)) found.set(page, at)
  }
  return [...found].map(([page, at]) => ({ page, at }))
}

function turningPoints(rules: CompiledRules, visitor: Visitor, fromMs: number, toMs: number): number[] {
  const { timezone } = rules.index.site
  const points = new Set<number>()
  const starts = (visitor.levels ?? []).map(held => Date.parse(held.since))
  for (const start of starts) points.add(start)
  const look = (key: string, argument: unknown) => {
    if (key === 'date') {
      const { from } = argument as { from?: string }
      if (from) points.add(localInstant(from, '00:00', timezone))
    }
    if (key === 'memberFor')
      for (const start of starts) points.add(addDuration(start, (argument as { atLeast: string }).atLeast, timezone))
  }
  for (const gate of rules.rulebook.gates ?? [])
    for (const right of ['open', 'find'] as const) if (gate[right]) eachLeaf(gate[right], look)
  for (const audience of rules.rulebook.audiences ?? []) eachLeaf(audience.is, look)
  return [...points]
    .filter(at => at > fromMs && at <= toMs)
    .sort((a, b) => a - b)
    .slice(0, 40)
}

/** The level one up from the highest held now; undefined at the top. */
export function levelAbove(levels: readonly Level[], visitor: Visitor, nowMs: number): Level | undefined {
  const held = (visitor.levels ?? [])
    .filter(one => Date.parse(one.since) <= nowMs && (!one.until || Date.parse(one.until) > nowMs))
    .map(one => levels.find(level => level.id === one.level)?.rank ?? 0)
  const rank = Math.max(0, ...held)
  return [...levels].sort((a, b) => a.rank - b.rank).find(level => level.rank > rank)
}

/** Pages glimpsed now that would open with `level`. */
export function addedBy(rules: CompiledRules, visitor: Visitor, level: string, nowMs: number): string[] {
  const more: Visitor = {
    ...visitor,
    levels: [...(visitor.levels ?? []), { level, since: new Date(nowMs).toISOString() }],
  }
  const waiting = glimpsed(rules, visitor, nowMs)
  return [...openPages(rules, more, nowMs)].filter(id => waiting.has(id))
}
