/** Large made-up sites, always the same for the same numbers: for measuring, never for showing. */
import type { Condition } from '../core/conditions/condition'
import type { Gate } from '../core/rulebook/gate'
import type { Rulebook } from '../core/rulebook/rulebook'
import type { Off, Offer } from '../core/rulebook/shop-rules'
import type { Visitor } from '../core/visitor/visitor'
import type { Site } from '../core/site/site'
import type { BoardTier } from '../core/audit/reach-board'
import { wexlowRulebook } from './wexlow/rulebook'

/** A small generator of repeatable numbers (mulberry32), from 0 to just under 1. */
export function repeatable(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296
  }
}

const levels = ['friend', 'maker', 'guild']
const roles = ['stockist', 'classroom', 'test-knitter', 'islander']

export interface RulesSize {
  gates: number
  audiences: number
  pages: number
  visitors: number
}

/** Pages four deep, gates of three to six leaves on one page in three, audiences that build on one another. */
export function generatedRules(size: RulesSize, seed = 7): { book: Rulebook; site: Site; visitors: Visitor[] } {
  const next = repeatable(seed)
  const pick = <T>(list: readonly T[]) => list[Math.floor(next() * list.length)]!
  const leaf = (audiences: number): Condition =>
    pick<() => Condition>([
      () => ({ level: { atLeast: pick(levels) } }),
      () => ({ level: { in: [pick(levels), pick(levels)] } }),
      () => ({ role: { anyOf: [pick(roles)] } }),
      () => ({ role: { anyOf: [pick(roles), pick(roles)] } }),
      () => ({ signedIn: true }),
      () => ({ country: { in: [pick(['IE', 'GB', 'DE', 'ES'])] } }),
      () => ({ date: { from: `2026-0${1 + Math.floor(next() * 9)}-01` } }),
      () => ({ weekday: { in: [pick(['mon', 'tue', 'sat'] as const)] } }),
      () => ({ device: { in: ['phone'] } }),
      ...(audiences ? [() => ({ audience: `a${Math.floor(next() * audiences)}` })] : []),
    ])()
  const mixed = (audiences: number): Condition => ({
    any: [
      { all: [leaf(audiences), leaf(audiences)] },
      leaf(audiences),
      { not: leaf(0) },
      ...(next() < 0.5 ? [{ all: [leaf(audiences), leaf(audiences)] }] : []),
    ],
  })
  const pages = Array.from({ length: size.pages }, (_, i) =>
    i < 12
      ? { id: `p${i}`, path: `/p${i}` }
      : { id: `p${i}`, path: `/p${Math.floor(i / 12)}/p${i}`, parent: `p${Math.floor(i / 12)}` },
  )
  const gates = Array.from({ length: size.gates }, (_, i): Gate => ({
    id: `g${i}`,
    on: { page: `p${Math.floor((i * size.pages) / size.gates)}`, below: i % 2 === 0 },
    open: mixed(size.audiences),
    ...(i % 3 === 0 ? { find: { everyone: true } as const } : {}),
    ...(i % 7 === 0 ? { inherit: false } : {}),
  }))
  const audiences = Array.from({ length: size.audiences }, (_, i) => ({ id: `a${i}`, is: mixed(i) }))
  const visitors = Array.from({ length: size.visitors }, (_, i): Visitor => ({
    person: i % 5 ? { id: `v${i}` } : null,
    levels: next() < 0.6 ? [{ level: pick(levels), since: '2026-01-01T00:00:00Z' }] : [],
    roles: next() < 0.5 ? [pick(roles)] : [],
    request: {
      at: '2026-11-24T10:00:00Z',
      ...(next() < 0.7 ? { country: pick(['IE', 'GB', 'FR']) } : {}),
      device: pick(['phone', 'desktop']),
    },
  }))
  return {
    book: { ...wexlowRulebook, gates, audiences, landings: [], tiers: [] },
    site: { timezone: 'Europe/Dublin', currency: 'EUR', pages },
    visitors,
  }
}

/** Products spread over gated categories, and as many tiers as asked for. */
export function generatedShop(
  size: { things: number; categories: number; tiers: number },
  seed = 11,
): { book: Rulebook; site: Site; tiers: BoardTier[] } {
  const { book, visitors } = generatedRules({ gates: 0, audiences: 60, pages: 1, visitors: size.tiers }, seed)
  const categories = Array.from({ length: size.categories }, (_, i) =>
    i < 100 ? { id: `c${i}` } : { id: `c${i}`, parent: `c${i % 100}` },
  )
  const products = Array.from({ length: size.things }, (_, i) => ({
    id: `t${i}`,
    path: `/shop/t${i}`,
    categories: [`c${i % size.categories}`],
    price: 100 + (i % 900),
  }))
  const gates = categories.map((category, i): Gate => ({
    id: `g${i}`,
    on: { category: category.id },
    open: { any: [{ audience: `a${i % 60}` }, { level: { atLeast: levels[i % 3]! } }] },
    take: { role: { anyOf: [roles[i % 4]!] } },
  }))
  return {
    book: { ...book, gates },
    site: { timezone: 'Europe/Dublin', currency: 'EUR', categories, products },
    tiers: visitors.map((visitor, i) => ({ id: `tier${i}`, name: `Tier ${i}`, visitor })),
  }
}

/** Offers over the categories of a generated shop: of every sort, for roles, levels and audiences, some with steps. */
export function generatedOffers(count: number, categories: number, seed = 13): Offer[] {
  const next = repeatable(seed)
  const pick = <T>(list: readonly T[]) => list[Math.floor(next() * list.length)]!
  const off = () =>
    pick<() => Off>([
      () => ({ percent: 1 + Math.floor(next() * 300) / 10 }),
      () => ({ amount: 5 + Math.floor(next() * 60) }),
    ])()
  return Array.from({ length: count }, (_, i): Offer => {
    const steps = i % 4 === 0
    return {
      id: `o${i}`,
      for: pick<() => Condition>([
        () => ({ role: { anyOf: [pick(roles)] } }),
        () => ({ level: { atLeast: pick(levels) } }),
        () => ({ audience: `a${Math.floor(next() * 60)}` }),
        () => ({ signedIn: true }),
      ])(),
      on: i % 100 === 0 ? { shop: true } : { categories: [`c${Math.floor(next() * categories)}`] },
      ...(steps
        ? {
            by: 'product' as const,
            bands: [
              { to: 9, off: off() },
              { from: 10, off: off() },
            ],
          }
        : { bands: [{ off: off() }] }),
      ...(i % 9 === 5 && !steps ? { combine: 'stack' as const } : {}),
    }
  })
}

/** Rates for so many destinations by categories, a second tax on top in every fifth, and other terms for roles. */
export function generatedTax(
  destinations: number,
  categories: number,
  exceptions: number,
  seed = 17,
): NonNullable<Rulebook['tax']> {
  const next = repeatable(seed)
  const country = (i: number) => String.fromCharCode(65 + Math.floor(i / 26)) + String.fromCharCode(65 + (i % 26))
  const category = (c: number) => (c ? `t${c}` : 'standard')
  const rates = Array.from({ length: destinations }, (_, i) =>
    Array.from({ length: categories }, (_, c) =>
      ['vat', ...(i % 5 ? [] : ['levy'])].map(tax => ({
        id: `${tax}-${i}-${c}`,
        tax,
        place: { country: country(i) },
        category: category(c),
        percent: (Math.floor(next() * 50) / 2).toString(),
      })),
    ),
  ).flat(2)
  return {
    settings: { typed: 'withTax', origin: { country: country(0) } },
    taxes: [
      { id: 'vat', name: 'VAT' },
      { id: 'levy', name: 'Levy', onTopOf: ['vat'] },
    ],
    rates,
    exceptions: Array.from({ length: exceptions }, (_, i) => ({
      id: `e${i}`,
      for: { role: { anyOf: [roles[i % roles.length]!] } },
      rate: rates[Math.floor(next() * rates.length)]!.id,
      percent: String(i % 12),
    })),
  }
}
