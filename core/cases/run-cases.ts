/** Answers the cases of a file with the engine and compares the keys that are expected. */
import { RuleSet } from '../gates/rule-set'
import { PlainDecider } from '../gates/plain-decider'
import { canBeTaken, hasPrice } from '../gates/verdict'
import { PlainPricing } from '../shop/plain-pricing'
import { PlainTax } from '../tax/plain-tax'
import { isTaxed } from '../tax/tax-trail'
import { landingOf } from '../landings/landing'
import { menuFor } from '../menus/menu'
import type { z } from 'zod'
import type { OwnShown } from '../kinds/block'
import type { Resource, SiteRecord } from '../kinds/kinds'
import { partsAround } from '../site/around'
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
  const query = queryOf(asked)
  const withQuery = query ? { ...visitor, request: { ...visitor.request, query } } : visitor
  const decider = new PlainDecider(rules, withQuery, nowMs)
  if ('condition' in asked) return { is: triWord(decider.condition(asked.condition)) }
  if ('resource' in asked) return resourceAnswer(decider, resourceOf(asked.resource, records))
  if ('shows' in asked) return { child: decider.shows({ kind: 'block', id: asked.shows }) }
  if ('price' in asked) return priceAnswer(asked, [rules, visitor, nowMs])
  if ('basket' in asked) return basketAnswer(asked.basket, [rules, visitor, nowMs])
  if ('landing' in asked) return landingAnswer(asked, rules, decider)
  if ('address' in asked) return addressAnswer(asked.address, rules, decider)
  if ('around' in asked) return aroundAnswer(asked, rules, decider)
  if ('menu' in asked) return { items: menuAnswer(asked.menu, rules, decider) }
  return {}
}

/** Of what is asked for in the address itself, and of what is said beside it. */
function queryOf(asked: Ask): Record<string, string> | undefined {
  if ('address' in asked) {
    const [, query] = asked.address.split('?')
    return query === undefined ? undefined : Object.fromEntries(new URLSearchParams(query))
  }
  return 'resource' in asked ? asked.query : undefined
}

function addressAnswer(address: string, rules: RuleSet, decider: PlainDecider): Record<string, unknown> {
  const path = address.split('?')[0]!
  const thing = rules.index.at(path)
  if (!thing) return { thing: null, otherwise: decider.atNowhere(path).value }
  return { thing: { [thing.kind]: thing.id }, otherwise: decider.decide(thing).otherwise ?? null }
}

function aroundAnswer(
  { around, frame }: Extract<Ask, { around: unknown }>,
  { index }: RuleSet,
  decider: PlainDecider,
): Record<string, unknown> {
  const shown = 'own' in around ? { own: around.own as OwnShown } : resourceOf(around, [])
  const parts = partsAround(index, frame, shown).map(block => block.id)
  return { parts: parts.filter(id => decider.opens('block', id, true)) }
}

type Priced = [rules: RuleSet, visitor: Visitor, nowMs: number]

function priceAnswer({ price: { product }, codes = [], shipTo }: Extract<Ask, { price: unknown }>, world: Priced) {
  const trail = new PlainPricing(...world, { codes }).price(product)
  const shown = new PlainTax(...world, codes).shown(product, 1, shipTo)
  if (!trail || !shown) return {}
  const { regular, current, unit, offers } = trail
  return { regular, current, unit, offers, ...shown }
}

function basketAnswer({ shipTo, ...asked }: Extract<Ask, { basket: unknown }>['basket'], world: Priced) {
  const { lines, delivery, ...totals } = new PlainTax(...world).basket({ ...asked, sentTo: shipTo })
  const sent = lines.map(line => {
    if (!isTaxed(line)) return { refused: true }
    const { unit, amount, discount, net, taxes, gross, offers } = line
    return { unit, amount, discount, net, taxes, gross, offers }
  })
  return { lines: sent, deliveryNet: delivery.net, deliveryTax: delivery.gross - delivery.net, ...totals }
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
    leadsTo: rules.rulebook.settings?.leadsTo,
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
