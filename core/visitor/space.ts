/**
 * Everybody who could ask, as far as some conditions can tell them apart: each thing a condition looks at is cut by the
 * constants in it, and of each piece one stands for all. What the cuts leave is finite, so that something can be tried on
 * all of them and is then true of every visitor there can be.
 */
import { localInstant, localTime, minutesOf } from '../calendar'
import type { Holdings } from './asker'
import type { Visitor } from './visitor'
import { devices } from '../shapes'
import { categoriesOf } from '../kinds/product'
import {
  bought,
  nextDay,
  request,
  thresholds,
  sizeOf,
  product,
  latestStart,
  plusDays,
  clockOf,
  rangeOf,
  addressText,
  pieceValues,
  longAgoMs,
} from './pieces'
import type { Piece, Range, Value } from './pieces'

type RequestPart = 'device' | 'browser' | 'country' | 'region' | 'language' | 'referrer'

/** Values nobody names: they stand for all others. */
const others: Record<RequestPart, string> = {
  device: '',
  browser: 'another browser',
  country: 'AQ',
  region: 'AQ-01',
  language: 'zu',
  referrer: 'elsewhere.example',
}

/** As many subsets of a list as are looked at; more make the space too large anyway. */
const mostListed = 16

export class Space {
  private readonly sets = new Map<string, Set<string>>()
  private readonly orders = new Set<number>()
  private readonly spent = new Set<number>()
  private readonly durations: { atLeast: string; level?: string | undefined }[] = []
  private readonly dates = new Set<string>()
  private readonly minutes = new Set<number>()
  private usesWeekday = false
  private usesClock = false
  private readonly queries = new Map<string, Set<string>>()
  private readonly facts = new Map<string, Set<Value>>()
  private usesLevels = false
  /** Something was looked at that cannot be cut. */
  undecidable = false

  constructor(
    private readonly holdings: Holdings,
    private readonly nowMs: number,
  ) {}

  private note(name: string, value: string): void {
    const set = this.sets.get(name)
    if (set) set.add(value)
    else this.sets.set(name, new Set([value]))
  }
  private noted(name: string): string[] {
    return [...(this.sets.get(name) ?? [])]
  }

  level(id: string): void {
    this.usesLevels = true
    this.note('level', id)
  }
  role(id: string): void {
    this.note('role', id)
  }
  permission(id: string): void {
    for (const [role, held] of this.holdings.permissionsOfRole) if (held.includes(id)) this.role(role)
  }
  person(id: string): void {
    this.note('person', id)
  }
  firm(id: string): void {
    this.note('firm', id)
  }
  bought(what: 'product' | 'category', id: string): void {
    this.note(`bought ${what}`, id)
  }
  basket(what: 'product' | 'category', id: string): void {
    this.note(`basket ${what}`, id)
  }
  ordersFrom(count: number): void {
    this.orders.add(count)
  }
  spentFrom(minor: number): void {
    this.spent.add(minor)
  }
  memberFor(atLeast: string, level?: string): void {
    this.usesLevels = true
    if (level !== undefined) this.note('level', level)
    this.durations.push({ atLeast, level })
    // A month is sometimes longer than thirty days and sometimes not: which of two passes first depends on the day.
    const inMonths = this.durations.filter(one => /^P[^T]*[YM]/.test(one.atLeast)).length
    if (inMonths && inMonths < this.durations.length) this.undecidable = true
  }
  date(from?: string, until?: string): void {
    this.usesClock = true
    if (from !== undefined) this.dates.add(from)
    if (until !== undefined) this.dates.add(nextDay(until))
  }
  time(from: string, until: string): void {
    this.usesClock = true
    this.minutes.add(minutesOf(from))
    this.minutes.add(minutesOf(until))
  }
  weekday(): void {
    this.usesClock = this.usesWeekday = true
  }
  request(part: RequestPart, value: string): void {
    this.note(part, part === 'language' || part === 'referrer' ? value.toLowerCase() : value)
  }
  network(cidr: string): void {
    this.note('address', cidr)
  }
  query(name: string, values: readonly string[] = []): void {
    const known = this.queries.get(name) ?? new Set()
    this.queries.set(name, new Set([...known, ...values]))
  }
  fact(name: string, values: readonly Value[]): void {
    const known = this.facts.get(name) ?? new Set()
    this.facts.set(name, new Set([...known, ...values]))
  }

  /** Pieces of what anybody comes with. */
  private get common(): Piece[][] {
    return [
      this.clockPieces(),
      ...(['device', 'browser', 'country', 'region', 'language', 'referrer'] as const).flatMap(part =>
        this.requestPieces(part),
      ),
      ...this.addressPieces(),
      ...[...this.queries].map(([name, values]) =>
        [undefined, ...values, 'another value'].map(
          (value): Piece =>
            visitor =>
              value === undefined ? visitor : request(visitor, { query: { ...visitor.request?.query, [name]: value } }),
        ),
      ),
      ...[...this.facts].map(([name, values]) => this.factPieces(name, [...values])),
      ...this.basketPieces(),
    ].filter(list => list.length > 0)
  }

  /** Pieces of what only somebody signed in is or has. */
  private get held(): Piece[][] {
    return [
      this.personPieces(),
      this.levelPieces(),
      this.subsets(this.noted('role'), (visitor, roles) => ({ ...visitor, roles })),
      this.firmPieces(),
      this.subsets(this.noted('bought product'), (visitor, products) => bought(visitor, { products })),
      this.subsets(this.noted('bought category'), (visitor, categories) => bought(visitor, { categories })),
      thresholds(this.orders, (visitor, orders) => bought(visitor, { orders })),
      thresholds(this.spent, (visitor, spent) => bought(visitor, { spent })),
    ].filter(list => list.length > 0)
  }

  /** How many there are: guests, and everybody else. */
  get count(): number {
    const common = sizeOf(this.common)
    return common + common * sizeOf(this.held)
  }

  /** One visitor for each piece of the space, the plainest first: guests before others. */
  *visitors(): Generator<Visitor> {
    const { common, held } = this
    for (const visitor of product({ person: null }, common)) yield visitor
    for (const somebody of product({ person: { id: 'somebody' } }, common)) yield* product(somebody, held)
  }

  private subsets(ids: readonly string[], make: (visitor: Visitor, chosen: string[]) => Visitor): Piece[] {
    if (!ids.length) return []
    if (ids.length > mostListed) {
      this.undecidable = true
      return []
    }
    return Array.from(
      { length: 2 ** ids.length },
      (_, bits): Piece =>
        visitor =>
          make(
            visitor,
            ids.filter((_, i) => bits & (1 << i)),
          ),
    )
  }

  private personPieces(): Piece[] {
    const named = this.noted('person')
    return named.length
      ? [undefined, ...named].map(
          (id): Piece =>
            visitor =>
              id === undefined ? visitor : { ...visitor, person: { id } },
        )
      : []
  }

  private firmPieces(): Piece[] {
    const named = this.noted('firm')
    return named.length
      ? [undefined, ...named].map(
          (firm): Piece =>
            visitor =>
              firm === undefined ? visitor : { ...visitor, firm },
        )
      : []
  }

  /** Those that are named, one of each rank between them, and those that bring a role that is. */
  private relevantLevels(): string[] {
    const roles = new Set(this.noted('role'))
    const named = new Set(this.noted('level'))
    const bringing = [...this.holdings.rolesOfLevel]
      .filter(([, brings]) => brings.some(role => roles.has(role)))
      .map(([level]) => level)
    if (!this.usesLevels && !bringing.length) return []
    const cuts = [...named].map(id => this.holdings.ranks.get(id) ?? 0).sort((a, b) => a - b)
    const pieceOf = (rank: number) => cuts.filter(cut => cut <= rank).length * 2 + (cuts.includes(rank) ? 1 : 0)
    const chosen = new Map<string, string>()
    for (const [id, rank] of this.holdings.ranks) {
      const isOwn = named.has(id) || bringing.includes(id)
      const piece = isOwn ? `level ${id}` : `rank ${pieceOf(rank)}`
      if (!chosen.has(piece)) chosen.set(piece, id)
    }
    return [...chosen.values()]
  }

  private levelPieces(): Piece[] {
    const levels = this.relevantLevels()
    if (!levels.length) return []
    if (levels.length > mostListed) {
      this.undecidable = true
      return []
    }
    // Since when each is held: long ago, or, where somebody looks at that, just long enough, or since now.
    const choices = levels.map(level => [null, ...this.sinces(level)])
    const found: Piece[] = []
    const walk = (i: number, chosen: ((at: number) => { level: string; since: string })[]): void => {
      if (found.length > 20_000) return void (this.undecidable = true)
      if (i === levels.length) {
        found.push(visitor => {
          const at = visitor.request?.at ? Date.parse(visitor.request.at) : this.nowMs
          return { ...visitor, levels: chosen.map(make => make(at)) }
        })
        return
      }
      for (const since of choices[i]!)
        walk(
          i + 1,
          since === null
            ? chosen
            : [...chosen, at => ({ level: levels[i]!, since: new Date(since(at)).toISOString() })],
        )
    }
    walk(0, [])
    return found
  }

  private sinces(level: string): ((at: number) => number)[] {
    const looked = this.durations.filter(one => one.level === undefined || one.level === level)
    const longAgo = (at: number) => at - longAgoMs
    if (!looked.length) return [longAgo]
    const { timezone } = this.holdings
    const justLongEnough = looked.map(
      ({ atLeast }) =>
        (at: number) =>
          latestStart(at, atLeast, timezone),
    )
    return [longAgo, ...justLongEnough, (at: number) => at]
  }

  private clockPieces(): Piece[] {
    const plain: Piece = visitor => request(visitor, { at: new Date(this.nowMs).toISOString() })
    if (!this.usesClock) return [plain]
    const { timezone } = this.holdings
    const today = localTime(this.nowMs, timezone).date
    const cuts = [today, ...[...this.dates].filter(day => day > today).sort()]
    const days = cuts.flatMap((day, i) => {
      const end = cuts[i + 1]
      const most = this.usesWeekday ? 7 : 1
      return Array.from({ length: most }, (_, n) => plusDays(day, n)).filter(one => end === undefined || one < end)
    })
    const minutes = [...new Set([0, ...this.minutes])].sort((a, b) => a - b)
    return days.flatMap(day =>
      minutes.map((minute): Piece => {
        const at = localInstant(day, clockOf(minute), timezone)
        return visitor => request(visitor, { at: new Date(at).toISOString() })
      }),
    )
  }

  private requestPieces(part: RequestPart): Piece[][] {
    const named = this.noted(part)
    if (!named.length) return []
    const values = part === 'device' ? [...devices] : [...named, others[part]]
    return [
      [undefined, ...new Set(values)].map(
        (value): Piece =>
          visitor =>
            value === undefined ? visitor : request(visitor, { [part]: value }),
      ),
    ]
  }

  /** Networks lie in each other or apart: of each, what lies in none within it, and what lies in none at all. */
  private addressPieces(): Piece[][] {
    const named = this.noted('address')
    if (!named.length) return []
    const ranges = named.map(rangeOf)
    const isIn = (at: bigint, { from, to }: Range) => from <= at && at <= to
    const found = new Set<string>()
    for (const { six } of ranges) {
      const same = ranges.filter(one => one.six === six)
      const signature = new Map<string, bigint>()
      const most = six ? (1n << 128n) - 1n : (1n << 32n) - 1n
      for (const at of same.flatMap(({ from, to }) => [from, to, from - 1n, to + 1n, 0n]))
        if (at >= 0n && at <= most) signature.set(same.map(one => (isIn(at, one) ? '1' : '0')).join(''), at)
      for (const at of signature.values()) found.add(addressText(at, six))
    }
    return [
      [undefined, ...found].map(
        (address): Piece =>
          visitor =>
            address === undefined ? visitor : request(visitor, { address }),
      ),
    ]
  }

  private factPieces(name: string, values: readonly Value[]): Piece[] {
    const fact = this.holdings.facts.get(name)
    const pieces = pieceValues(fact?.type, values, fact?.choices)
    if (!pieces) this.undecidable = true
    return [undefined, ...(pieces ?? [])].map(
      (value): Piece =>
        visitor =>
          value === undefined ? visitor : { ...visitor, facts: { ...visitor.facts, [name]: value } },
    )
  }

  /** Products that are named, and one for each mix of the categories that are. */
  private basketPieces(): Piece[][] {
    const products = this.noted('basket product')
    const categories = this.noted('basket category')
    if (!products.length && !categories.length) return []
    const { index } = this.holdings
    const kinds = new Map<string, string>()
    for (const one of index.all('product').values()) {
      const lies = new Set(categoriesOf(one, index).flatMap(id => index.lineage('category', id)))
      const named = products.includes(one.id) || (one.of !== undefined && products.includes(one.of))
      const mix = `${named ? `${one.of ?? one.id}` : ''} ${categories.filter(id => lies.has(id)).join(' ')}`
      if (mix !== ' ' && !kinds.has(mix)) kinds.set(mix, one.id)
    }
    return [
      this.subsets([...kinds.values()], (visitor, chosen) => ({
        ...visitor,
        basket: chosen.map(product => ({ product, quantity: 1 })),
      })),
    ]
  }
}
