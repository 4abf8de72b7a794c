/** Answers the cases of a file with the engine and compares the keys that are expected. */
import { PlainDecider, RuleSet } from '../gates/plain-decider'
import { canBeTaken, hasPrice } from '../gates/verdict'
import { PlainPricing } from '../shop/plain-pricing'
import { isPriced } from '../shop/price-trail'
import { landingOf } from '../landings/landing'
import { menuFor } from '../menus/menu'
import type { z } from 'zod'
import type { Resource, SiteRecord } from '../kinds/kinds'
import type { Rulebook } from '../rulebook/rulebook'
import { validateRulebook } from '../check/validate'
import type { Visitor } from '../visitor/visitor'
import type { Site } from '../site/site'
import { TRUE, triWord } from '../tri'
import { canonical } from '../canonical'
import { caseSite, resourceOf } from './case-file'
import type { Ask, Case, CaseFile } from './case-file'
import { mergePatch } from './merge-patch'

export interface Difference {
  key: string
  expected: unknown
  found: unknown
}
export interface CaseResult {
  name: string
  passed: boolean
  differences: Difference[]
  /** Why it could not be answered. */ problem?: string
}

/** `nowMs` (milliseconds since 1970) counts where a visitor names no time. */
export function runCases(file: CaseFile, nowMs: number): CaseResult[] {
  return file.cases.map(one => runCase(file, one, nowMs))
}

function runCase(file: CaseFile, one: Case, nowMs: number): CaseResult {
  const rulebook = mergePatch(file.rulebook, one.rulebookPatch ?? {})
  const site = caseSite.safeParse(mergePatch(file.site, one.sitePatch ?? {}))
  if (!site.success) return failed(one, `the patched site is not valid: ${site.error.issues[0]?.message}`)
  if (('price' in one.ask || 'basket' in one.ask) && isTaxed(rulebook)) return failed(one, 'not supported yet')
  const visitor = one.visitor === undefined ? {} : file.visitors[one.visitor]
  if (!visitor) return failed(one, `there is no visitor "${one.visitor}"`)
  if (!('validate' in one.ask)) {
    const issues = validateRulebook(rulebook, split(site.data).site)
    if (issues.length) return failed(one, `the rulebook is not valid: ${issues[0]!.at} ${issues[0]!.message}`)
  }
  const found = answer(one.ask, { rulebook, ...split(site.data) }, visitor, nowMs)
  const differences = Object.entries(one.expect).flatMap(([key, expected]) =>
    same(key, expected, found[key]) ? [] : [{ key, expected, found: found[key] }],
  )
  return { name: one.name, passed: differences.length === 0, differences }
}

const failed = (one: Case, problem: string): CaseResult => ({ name: one.name, passed: false, differences: [], problem })

interface World {
  rulebook: unknown
  site: Site
  records: readonly SiteRecord[]
}

const split = ({ records = [], ...site }: z.infer<typeof caseSite>): Omit<World, 'rulebook'> => ({ site, records })

function answer(
  asked: Ask,
  { rulebook, site, records }: World,
  visitor: Visitor,
  nowMs: number,
): Record<string, unknown> {
  if ('validate' in asked) return { errors: validateRulebook(rulebook, site).map(({ at }) => ({ at })) }
  const rules = new RuleSet(rulebook as Rulebook, site)
  const withQuery =
    'resource' in asked && asked.query ? { ...visitor, request: { ...visitor.request, query: asked.query } } : visitor
  const decider = new PlainDecider(rules, withQuery, nowMs)
  if ('condition' in asked) return { is: triWord(decider.condition(asked.condition)) }
  if ('resource' in asked) return resourceAnswer(decider, resourceOf(asked.resource, records))
  if ('shows' in asked) return { child: decider.shows({ kind: 'block', id: asked.shows }) }
  if ('price' in asked) return priceAnswer(asked, new PlainPricing(rules, visitor, nowMs, { codes: asked.codes ?? [] }))
  if ('basket' in asked)
    return basketAnswer(asked.basket, new PlainPricing(rules, visitor, nowMs, { codes: asked.basket.codes ?? [] }))
  if ('landing' in asked) return landingAnswer(asked, rules, decider)
  if ('menu' in asked) return { items: menuAnswer(asked.menu, rules, decider) }
  return {}
}

/** Without settings of taxes there is no tax. */
const isTaxed = (rulebook: unknown) => (rulebook as Rulebook).tax?.settings !== undefined

function priceAnswer({ price: { product } }: Extract<Ask, { price: unknown }>, pricing: PlainPricing) {
  const trail = pricing.price(product)
  if (!trail) return {}
  const { regular, current, unit, offers } = trail
  return { regular, current, unit, offers, withoutTax: unit, withTax: unit, shown: unit, note: '' }
}

function basketAnswer({ lines, delivery = 0 }: Extract<Ask, { basket: unknown }>['basket'], pricing: PlainPricing) {
  const priced = pricing.basket(lines)
  const sent = priced.lines.map(line => {
    if (!isPriced(line)) return { refused: true }
    const { unit, amount, discount, offers } = line
    return { unit, amount, discount, net: amount - discount, taxes: [], gross: amount - discount, offers }
  })
  const all = priced.total + delivery
  return { lines: sent, deliveryNet: delivery, deliveryTax: 0, net: all, tax: 0, gross: all, discount: priced.discount }
}

function resourceAnswer(decider: PlainDecider, resource: Resource): Record<string, unknown> {
  const { price, take, ...verdict } = decider.decide(resource)
  return { ...verdict, ...(hasPrice(resource.kind) ? { price } : {}), ...(canBeTaken(resource.kind) ? { take } : {}) }
}

function landingAnswer(
  asked: Extract<Ask, { landing: unknown }>,
  rules: RuleSet,
  decider: PlainDecider,
): Record<string, unknown> {
  const refused = asked.refused && resourceOf(asked.refused, [])
  const { to } = landingOf(rules.rulebook.landings ?? [], {
    on: asked.landing,
    asker: decider.asker,
    admits: condition => decider.condition(condition) === TRUE,
    opens: resource => decider.opens(resource.kind, resource.id, true),
    ...(refused ? { refused: { resource: refused, path: rules.index.pathOf(refused.kind, refused.id) } } : {}),
  })
  return { to }
}

function menuAnswer(id: string, rules: RuleSet, decider: PlainDecider): unknown {
  const menu = rules.index.get('menu', id)
  if (!menu) return null
  return menuFor(menu, {
    signedIn: () => decider.asker.signedIn,
    ownAdmits: item => {
      const { find, open } = decider.decide({ kind: 'menuItem', id: item.id })
      return find && open
    },
    opens: resource => decider.opens(resource.kind, resource.id, true),
  }).map(({ item, state }) => ({ id: item.id, state }))
}

/** Issues are compared as a set of places; of the lines of a basket only the keys that are expected; everything else as it is. */
function same(key: string, expected: unknown, found: unknown): boolean {
  if (key === 'lines') return sameLines(expected as Line[], found as Line[] | undefined)
  if (key === 'errors') return canonical(placesOf(expected)) === canonical(placesOf(found))
  return canonical(expected) === canonical(found)
}

type Line = Record<string, unknown>
const sameLines = (expected: readonly Line[], found: readonly Line[] = []) =>
  expected.length === found.length &&
  expected.every((line, i) =>
    Object.entries(line).every(([key, value]) => canonical(value) === canonical(found[i]![key])),
  )

const placesOf = (list: unknown) =>
  Array.isArray(list) ? [...new Set(list.map(one => (one as { at: string }).at))].sort() : list
