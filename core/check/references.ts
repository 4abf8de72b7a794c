/**
 * Follows every id in a rulebook. Works on the raw document, so that one
 * malformed entry does not hide what is wrong in the others.
 */
import type { References, RuleList } from '../conditions/leaves/leaf'
import { leafOf } from '../conditions/leaves/leaves'
import { issue } from '../errors'
import type { Issue, IssueCode } from '../errors'
import { pointer } from '../pointer'
import type { SiteIndex } from '../site/site-index'
import { scopes } from '../kinds/kinds'
import type { Kept, ScopeKey } from '../kinds/kinds'
import { splitField } from '../kinds/register'
import { isLead, mayLead } from '../site/leads'
import { ringMembers } from './ring'
import { isObject } from '../shapes'
import { fitsType } from '../visitor/fact-type'

type Raw = Record<string, unknown>
type Path = (string | number)[]

const listOf = (value: unknown): unknown[] => (Array.isArray(value) ? value : [])
const objectsOf = (value: unknown): [Raw, number][] =>
  listOf(value).flatMap((one, i) => (isObject(one) ? [[one, i] as [Raw, number]] : []))

export function checkReferences(document: Raw, index: SiteIndex): Issue[] {
  return new ReferenceCheck(document, index).run()
}

/** The same for conditions that stand elsewhere, each with its place. The rules are read once, when the first is asked about. */
export function conditionChecker(document: Raw, index: SiteIndex): (conditions: readonly [unknown, Path][]) => Issue[] {
  let check: ReferenceCheck | undefined
  return conditions => (check ??= new ReferenceCheck(document, index)).conditions(conditions)
}

class ReferenceCheck {
  private readonly found: Issue[] = []
  private readonly ids: Record<'levels' | 'roles' | 'permissions' | 'audiences' | 'rates' | 'taxes', Set<unknown>>
  private readonly facts: Map<unknown, Raw>
  private readonly tax: Raw

  constructor(
    private readonly document: Raw,
    private readonly index: SiteIndex,
  ) {
    this.tax = isObject(document.tax) ? document.tax : {}
    const ids = (list: unknown) => new Set(objectsOf(list).map(([entry]) => entry.id))
    this.ids = {
      levels: ids(document.levels),
      roles: ids(document.roles),
      permissions: ids(document.permissions),
      audiences: ids(document.audiences),
      rates: ids(this.tax.rates),
      taxes: ids(this.tax.taxes),
    }
    this.facts = new Map(objectsOf(document.facts).map(([entry]) => [entry.id, entry]))
  }

  conditions(list: readonly [unknown, Path][]): Issue[] {
    const before = this.found.length
    for (const [condition, path] of list) this.condition(condition, path)
    return this.found.slice(before)
  }

  run(): Issue[] {
    const doc = this.document
    for (const [level, i] of objectsOf(doc.levels)) this.each(level.roles, ['levels', i, 'roles'], this.ids.roles)
    for (const [role, i] of objectsOf(doc.roles))
      this.each(role.permissions, ['roles', i, 'permissions'], this.ids.permissions)
    for (const [audience, i] of objectsOf(doc.audiences)) this.condition(audience.is, ['audiences', i, 'is'])
    for (const [gate, i] of objectsOf(doc.gates)) this.gate(gate, ['gates', i])
    for (const [offer, i] of objectsOf(doc.offers)) this.offer(offer, ['offers', i])
    for (const [landing, i] of objectsOf(doc.landings)) {
      this.condition(landing.for, ['landings', i, 'for'])
      this.lead(landing.to, ['landings', i, 'to'])
    }
    for (const [tier, i] of objectsOf(doc.tiers)) this.visitor(tier.visitor, ['tiers', i, 'visitor'])
    this.settings()
    this.deliveries()
    this.taxes()
    this.audienceRings()
    return this.found
  }

  private add(path: Path, code: IssueCode, found?: unknown, detail?: string): void {
    this.found.push(issue(pointer(path), code, detail, found))
  }

  private one(value: unknown, path: Path, among: { has(id: never): boolean }): void {
    if (typeof value === 'string' && !among.has(value as never)) this.add(path, 'dangling-id', value)
  }

  private each(list: unknown, path: Path, among: { has(id: never): boolean }): void {
    listOf(list).forEach((value, i) => this.one(value, [...path, i], among))
  }

  private settings(): void {
    if (!isObject(this.document.settings)) return
    const { masterKeys, otherwise } = this.document.settings
    this.each(masterKeys, ['settings', 'masterKeys'], this.ids.roles)
    if (isObject(otherwise))
      for (const [kind, value] of Object.entries(otherwise)) this.otherwise(value, ['settings', 'otherwise', kind])
  }

  private deliveries(): void {
    for (const [delivery, i] of objectsOf(this.document.deliveries))
      this.condition(delivery.for, ['deliveries', i, 'for'])
  }

  private taxes(): void {
    for (const [tax, i] of objectsOf(this.tax.taxes))
      this.each(tax.onTopOf, ['tax', 'taxes', i, 'onTopOf'], this.ids.taxes)
    for (const [rate, i] of objectsOf(this.tax.rates)) this.one(rate.tax, ['tax', 'rates', i, 'tax'], this.ids.taxes)
    for (const [exception, i] of objectsOf(this.tax.exceptions)) {
      this.condition(exception.for, ['tax', 'exceptions', i, 'for'])
      this.one(exception.rate, ['tax', 'exceptions', i, 'rate'], this.ids.rates)
      this.each(exception.onTopOf, ['tax', 'exceptions', i, 'onTopOf'], this.ids.taxes)
    }
    for (const [goods, i] of objectsOf(this.tax.goods)) {
      this.condition(goods.for, ['tax', 'goods', i, 'for'])
      this.shopScope(goods.on, ['tax', 'goods', i, 'on'])
    }
    for (const [shown, i] of objectsOf(this.tax.shown)) this.condition(shown.for, ['tax', 'shown', i, 'for'])
    const edges = new Map(objectsOf(this.tax.taxes).map(([tax]) => [tax.id, listOf(tax.onTopOf)]))
    const onRing = ringMembers(edges)
    for (const [tax, i] of objectsOf(this.tax.taxes))
      if (onRing.has(tax.id)) this.add(['tax', 'taxes', i, 'onTopOf'], 'tax-ring')
    if (!onRing.size) this.exceptionRings(edges)
  }

  /** One exception that puts a tax on top of what is on top of it. What several do together is not known before somebody buys. */
  private exceptionRings(edges: ReadonlyMap<unknown, unknown[]>): void {
    const taxOf = new Map(objectsOf(this.tax.rates).map(([rate]) => [rate.id, rate.tax]))
    for (const [exception, i] of objectsOf(this.tax.exceptions)) {
      if (exception.onTopOf === undefined) continue
      const tax = taxOf.get(exception.rate)
      const changed = new Map(edges).set(tax, listOf(exception.onTopOf))
      if (ringMembers(changed).has(tax)) this.add(['tax', 'exceptions', i, 'onTopOf'], 'tax-ring')
    }
  }

  private audienceRings(): void {
    const edges = new Map<unknown, unknown[]>()
    for (const [audience] of objectsOf(this.document.audiences)) {
      const targets: unknown[] = []
      this.leaves(audience.is, [], (key, argument) => {
        if (key === 'audience') targets.push(argument)
      })
      edges.set(audience.id, targets)
    }
    const onRing = ringMembers(edges)
    for (const [audience, i] of objectsOf(this.document.audiences))
      if (onRing.has(audience.id)) this.add(['audiences', i, 'is'], 'audience-ring')
  }

  private gate(gate: Raw, path: Path): void {
    const on = isObject(gate.on) ? gate.on : {}
    this.scope(on, [...path, 'on'])
    const register =
      typeof on.records === 'string' ? on.records : typeof on.field === 'string' ? splitField(on.field)[0] : undefined
    for (const right of ['open', 'find', 'search', 'price', 'take'])
      if (right in gate) this.condition(gate[right], [...path, right], register)
    this.otherwise(gate.otherwise, [...path, 'otherwise'])
  }

  private lead(to: unknown, path: Path): void {
    const { leadsTo } = isObject(this.document.settings) ? this.document.settings : {}
    const hosts = listOf(leadsTo).filter(one => typeof one === 'string')
    if (typeof to === 'string' && isLead(to) && !mayLead(to, hosts)) this.add(path, 'host-not-allowed', to)
  }

  private things(kind: string): { has(id: never): boolean } {
    return { has: (id: string) => this.index.has(kind as Kept, id) }
  }

  private scope(on: Raw, path: Path): void {
    for (const [key, value] of Object.entries(on)) {
      if (Object.hasOwn(scopes, key)) this.one(value, [...path, key], this.things(scopes[key as ScopeKey]))
    }
  }

  private otherwise(value: unknown, path: Path): void {
    if (!isObject(value)) return
    if (isObject(value.redirect)) this.lead(value.redirect.to, [...path, 'redirect', 'to'])
    if (isObject(value.swap)) this.one(value.swap.block, [...path, 'swap', 'block'], this.things('block'))
    for (const state of ['guest', 'signedIn']) this.otherwise(value[state], [...path, state])
  }

  private offer(offer: Raw, path: Path): void {
    if ('for' in offer) this.condition(offer.for, [...path, 'for'])
    this.shopScope(offer.on, [...path, 'on'])
    this.shopScope(offer.counts, [...path, 'counts'])
  }

  private shopScope(on: unknown, path: Path): void {
    if (!isObject(on)) return
    this.each(on.categories, [...path, 'categories'], this.things('category'))
    this.each(on.products, [...path, 'products'], this.things('product'))
  }

  private visitor(visitor: unknown, path: Path): void {
    if (!isObject(visitor)) return
    for (const [held, i] of objectsOf(visitor.levels))
      this.one(held.level, [...path, 'levels', i, 'level'], this.ids.levels)
    this.each(visitor.roles, [...path, 'roles'], this.ids.roles)
    for (const said of ['facts', 'firmFacts'])
      if (isObject(visitor[said]))
        for (const fact of Object.keys(visitor[said])) this.one(fact, [...path, said, fact], this.facts)
    if (isObject(visitor.bought)) {
      this.each(visitor.bought.products, [...path, 'bought', 'products'], this.things('product'))
      this.each(visitor.bought.categories, [...path, 'bought', 'categories'], this.things('category'))
    }
    for (const [line, i] of objectsOf(visitor.basket))
      this.one(line.product, [...path, 'basket', i, 'product'], this.things('product'))
  }

  /** Visits well-formed leaves and passes over what is not. */
  private leaves(node: unknown, path: Path, visit: (key: string, argument: unknown, path: Path) => void): void {
    if (!isObject(node) || Object.keys(node).length !== 1) return
    const key = Object.keys(node)[0]!
    if (key === 'not') return this.leaves(node.not, [...path, 'not'], visit)
    if (key === 'all' || key === 'any')
      return listOf(node[key]).forEach((part, i) => this.leaves(part, [...path, key, i], visit))
    visit(key, node[key], [...path, key])
  }

  private condition(node: unknown, path: Path, register?: string): void {
    this.leaves(node, path, (key, argument, at) => {
      const leaf = leafOf(key)
      if (!leaf) return
      if (leaf.ofRecord && register === undefined) return this.add(at, 'record-leaf')
      leaf.references?.(argument, at, this.following(register))
    })
  }

  /** What leaves follow the ids of their argument with. */
  private following(register: string | undefined): References {
    const field = (id: unknown, at: readonly (string | number)[], type?: string) => {
      if (typeof id !== 'string' || register === undefined || !this.index.has('register', register)) return
      const found = this.index.field(`${register}/${id}`)
      if (!found) return this.add([...at], 'dangling-id', id)
      if (type && found.type !== type) this.add([...at], 'wrong-type', id, `A field of type ${type} is expected.`)
    }
    return {
      register,
      among: (value, at, list) => {
        const known = typeof list === 'string' ? this.ids[list satisfies RuleList] : this.things(list.kind)
        if (Array.isArray(value)) this.each(value, [...at], known)
        else this.one(value, [...at], known)
      },
      field,
      fact: (argument, at) => {
        const fact = this.facts.get(argument.name)
        if (!fact) return this.one(argument.name, [...at, 'name'], this.facts)
        this.comparison(argument, [...at], String(fact.type), fact.type === 'choice' ? listOf(fact.choices) : undefined)
      },
      recordField: (argument, at) => {
        field(argument.field, [...at, 'field'])
        const type = this.index.field(`${register}/${String(argument.field)}`)?.type
        if (type && type !== 'person') this.comparison(argument, [...at], type)
      },
    }
  }

  private comparison(argument: Raw, at: Path, type: string, choices?: unknown[]): void {
    const check = (value: unknown, path: Path) => {
      if (value === undefined || !['string', 'number', 'boolean'].includes(typeof value)) return
      if (!fitsType(value, type)) return this.add(path, 'wrong-type', value, `A ${type} is expected.`)
      if (choices && !choices.includes(value)) this.add(path, 'not-a-choice', value)
    }
    check(argument.is, [...at, 'is'])
    listOf(argument.in).forEach((value, i) => check(value, [...at, 'in', i]))
    for (const key of ['atLeast', 'atMost']) {
      if (!(key in argument)) continue
      if (type === 'number' || type === 'date') check(argument[key], [...at, key])
      else this.add([...at, key], 'wrong-type', undefined, `A ${type} has no order.`)
    }
  }
}
