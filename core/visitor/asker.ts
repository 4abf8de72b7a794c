/**
 * A visitor made ready for questions: what is held now, the local clock, the
 * facts of the request, with everything that cannot be read left out.
 */
import ipaddr from 'ipaddr.js'
import { localTime } from '../calendar'
import type { LocalTime } from '../calendar'
import { categoriesOf } from '../kinds/product'
import type { SiteIndex } from '../site/site-index'
import type { FactSource, FactValue } from './fact-source'
import { fitsType, ofFirms } from './fact-type'
import { wordParts } from './request-parts'
import type { WordPart } from './request-parts'
import type { Visitor } from './visitor'

/** The parts of a rulebook that tell what a visitor holds. */
export interface HoldingRules {
  levels?: { id: string; rank: number; roles?: string[] | undefined }[] | undefined
  roles?: { id: string; permissions?: string[] | undefined }[] | undefined
  facts?: { id: string; type: string; choices?: string[] | undefined; from?: FactSource | undefined }[] | undefined
  settings?: { masterKeys?: string[] | undefined } | undefined
}

/** Those parts, ready for asking. Built once per rulebook. */
export class Holdings {
  readonly ranks: ReadonlyMap<string, number>
  readonly rolesOfLevel: ReadonlyMap<string, readonly string[]>
  readonly permissionsOfRole: ReadonlyMap<string, readonly string[]>
  readonly facts: ReadonlyMap<string, { type: string; choices?: string[] | undefined; from?: FactSource | undefined }>
  readonly masterKeys: ReadonlySet<string>

  constructor(
    rulebook: HoldingRules,
    readonly index: SiteIndex,
  ) {
    this.ranks = new Map((rulebook.levels ?? []).map(level => [level.id, level.rank]))
    this.rolesOfLevel = new Map((rulebook.levels ?? []).map(level => [level.id, level.roles ?? []]))
    this.permissionsOfRole = new Map((rulebook.roles ?? []).map(role => [role.id, role.permissions ?? []]))
    this.facts = new Map((rulebook.facts ?? []).map(fact => [fact.id, fact]))
    this.masterKeys = new Set(rulebook.settings?.masterKeys ?? [])
  }

  get timezone(): string {
    return this.index.site.timezone
  }
}

export class Asker {
  readonly signedIn: boolean
  readonly personId: string | undefined
  readonly firm: string | undefined
  /** Milliseconds since 1970. */
  readonly at: number
  /** Highest rank among levels held now, 0 when none. */
  readonly rank: number = 0
  /** Levels held now, with their earliest start in milliseconds. */
  readonly levels = new Map<string, number>()
  readonly roles = new Set<string>()
  readonly permissions = new Set<string>()
  readonly masterKey: boolean
  private readonly facts = new Map<string, FactValue>()
  /** Facts that were looked for and that a service outside may know; of the same visitor asked otherwise, all together. */
  missed = new Set<string>()
  readonly query: Readonly<Record<string, string>>
  readonly request: Readonly<Partial<Record<WordPart, string>>>
  readonly orders: number
  readonly spent: number
  private local: LocalTime | undefined
  private bought: { products: Set<string>; categories: Set<string> } | undefined
  private basket: { products: Set<string>; categories: Set<string> } | undefined
  private network: ipaddr.IPv4 | ipaddr.IPv6 | null | undefined

  /** `nowMs` stands in where the visitor's request names no time. */
  constructor(
    readonly visitor: Visitor,
    readonly holdings: Holdings,
    nowMs: number,
  ) {
    const { request = {}, person } = visitor
    this.at = request.at ? Date.parse(request.at) : nowMs
    this.signedIn = person != null
    this.request = present(request)
    this.query = request.query ?? {}
    this.readFacts()
    // A guest holds nothing, whatever the document says.
    this.personId = person?.id
    this.firm = this.signedIn ? (visitor.firm ?? undefined) : undefined
    if (this.signedIn) this.rank = this.hold()
    this.masterKey = this.roles.size > 0 && [...this.roles].some(role => holdings.masterKeys.has(role))
    const past = this.signedIn ? visitor.bought : undefined
    this.orders = past?.orders ?? 0
    this.spent = past?.spent ?? 0
  }

  /** Takes in levels held now, roles and permissions; returns the rank. */
  private hold(): number {
    let rank = 0
    for (const { level, since, until } of this.visitor.levels ?? []) {
      const start = Date.parse(since)
      if (start > this.at || (until && this.at >= Date.parse(until))) continue
      this.levels.set(level, Math.min(start, this.levels.get(level) ?? start))
      rank = Math.max(rank, this.holdings.ranks.get(level) ?? 0)
      for (const role of this.holdings.rolesOfLevel.get(level) ?? []) this.roles.add(role)
    }
    for (const role of this.visitor.roles ?? []) this.roles.add(role)
    for (const role of this.roles)
      for (const permission of this.holdings.permissionsOfRole.get(role) ?? []) this.permissions.add(permission)
    return rank
  }

  private readFacts(): void {
    const { facts, firmFacts } = this.visitor
    const take = (said: Readonly<Record<string, unknown>>, ofFirm: boolean) => {
      for (const [id, value] of Object.entries(said)) {
        const fact = this.holdings.facts.get(id)
        if (!fact || !fitsType(value, fact.type) || (ofFirm && !ofFirms(fact))) continue
        if (fact.type === 'choice' && !fact.choices?.includes(value as string)) continue
        this.facts.set(id, value as FactValue)
      }
    }
    // What they say of themselves goes before what is said of their firm.
    if (firmFacts && this.visitor.person && this.visitor.firm) take(firmFacts, true)
    if (facts) take(facts, false)
  }

  /** A fact of the visitor; undefined where it is not known. */
  fact(id: string): FactValue | undefined {
    const value = this.facts.get(id)
    const from = value === undefined ? this.holdings.facts.get(id)?.from : undefined
    if (from && 'service' in from) this.missed.add(id)
    return value
  }

  private withParents(products: string[]): Set<string> {
    const all = new Set(products)
    for (const id of products) {
      const parent = (one: string) => this.holdings.index.get('product', one)?.of
      for (let of = parent(id); of && !all.has(of); of = parent(of)) all.add(of)
    }
    return all
  }

  get clock(): LocalTime {
    return (this.local ??= localTime(this.at, this.holdings.timezone))
  }

  hasBought(what: 'product' | 'category', id: string): boolean {
    const past = this.signedIn ? this.visitor.bought : undefined
    this.bought ??= { products: this.withParents(past?.products ?? []), categories: new Set(past?.categories) }
    return what === 'product' ? this.bought.products.has(id) : this.bought.categories.has(id)
  }

  basketHolds(what: 'product' | 'category', id: string): boolean {
    if (!this.basket) {
      const { index } = this.holdings
      const products = (this.visitor.basket ?? []).map(line => line.product)
      const categories = products.flatMap(id => {
        const product = index.get('product', id)
        return product ? categoriesOf(product, index) : []
      })
      this.basket = {
        products: this.withParents(products),
        categories: new Set(categories.flatMap(category => index.lineage('category', category))),
      }
    }
    return what === 'product' ? this.basket.products.has(id) : this.basket.categories.has(id)
  }

  /** The visitor's IP address; null when there is none that can be read. */
  get address(): ipaddr.IPv4 | ipaddr.IPv6 | null {
    if (this.network === undefined) this.network = parseAddress(this.visitor.request?.address ?? '')
    return this.network
  }
}

function present(request: NonNullable<Visitor['request']>): Asker['request'] {
  const read: Record<string, string> = {}
  for (const key of wordParts) {
    const value = request[key]
    if (value) read[key] = value
  }
  return read
}

function parseAddress(text: string): ipaddr.IPv4 | ipaddr.IPv6 | null {
  if (!ipaddr.IPv4.isValidFourPartDecimal(text) && !ipaddr.IPv6.isValid(text)) return null
  return ipaddr.process(text)
}

/** A network in CIDR form; one written for IPv4 in IPv6 form is the IPv4 network. */
export function parseNetwork(cidr: string): [ipaddr.IPv4 | ipaddr.IPv6, number] {
  const [address, bits] = ipaddr.parseCIDR(cidr)
  if (address.kind() === 'ipv6' && (address as ipaddr.IPv6).isIPv4MappedAddress() && bits >= 96)
    return [(address as ipaddr.IPv6).toIPv4Address(), bits - 96]
  return [address, bits]
}
