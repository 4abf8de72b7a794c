/** Random conditions, gates and visitors over the shared case's site, for property tests. */
import fc from 'fast-check'
import type { Condition } from '../../core/conditions/condition'
import type { Gate, Otherwise, Scope, Treatment } from '../../core/rulebook/gate'
import { kinds } from '../../core/kinds/kinds'
import type { Visitor } from '../../core/visitor/visitor'
import type { Site } from '../../core/site/site'
import type { Rulebook } from '../../core/rulebook/rulebook'

const some = <T>(one: fc.Arbitrary<T>) => fc.array(one, { minLength: 1, maxLength: 3 })
const pick = <T extends string>(list: readonly T[]) => fc.constantFrom(...list)
const day = fc.integer({ min: 0, max: 800 }).map(n => new Date(Date.UTC(2025, 6, 1 + n)).toISOString().slice(0, 10))
const clock = fc
  .tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }))
  .map(([h, m]) => `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`)
const duration = fc.constantFrom('P30D', 'P1M', 'P1Y2M', 'PT6H', 'P2W', 'P1DT2H30M', 'P0D', 'PT45S')

/** Leaves that ask about other things and records are left out unless asked for. */
export function anyLeaf(
  file: { book: Rulebook; site: Site },
  options: { opens?: boolean; record?: boolean; audiences?: string[] } = {},
): fc.Arbitrary<Condition> {
  const { book, site } = file
  const level = pick(book.levels!.map(one => one.id))
  const role = pick(book.roles!.map(one => one.id))
  const product = pick(site.products!.map(one => one.id))
  const category = pick(site.categories!.map(one => one.id))
  const audience = pick(options.audiences ?? book.audiences!.map(one => one.id))
  const leaves: fc.Arbitrary<unknown>[] = [
    fc.constant({ everyone: true }),
    fc.constant({ nobody: true }),
    fc.boolean().map(signedIn => ({ signedIn })),
    level.map(atLeast => ({ level: { atLeast } })),
    level.map(atMost => ({ level: { atMost } })),
    some(level).map(list => ({ level: { in: list } })),
    some(role).map(anyOf => ({ role: { anyOf } })),
    some(role).map(allOf => ({ role: { allOf } })),
    pick(book.permissions!.map(one => one.id)).map(permission => ({ permission })),
    some(pick(['p-ana', 'p x "y"', 'p-gu'])).map(list => ({ person: { in: list } })),
    some(pick(['gullhaven-knits', 'Sett & Sons'])).map(list => ({ firm: { in: list } })),
    product.map(id => ({ bought: { product: id } })),
    category.map(id => ({ bought: { category: id } })),
    fc.nat(9).map(atLeast => ({ orders: { atLeast } })),
    fc.nat(99_999).map(atLeast => ({ spent: { atLeast } })),
    fc
      .tuple(duration, fc.option(level, { nil: undefined }))
      .map(([atLeast, of]) => ({ memberFor: of ? { atLeast, level: of } : { atLeast } })),
    product.map(id => ({ basket: { product: id } })),
    category.map(id => ({ basket: { category: id } })),
    fc.tuple(day, day).map(([a, b]) => ({ date: a < b ? { from: a, until: b } : { from: a } })),
    day.map(until => ({ date: { until } })),
    day.map(on => ({ date: { from: on, until: on } })),
    fc
      .tuple(clock, clock)
      .filter(([a, b]) => a !== b)
      .map(([from, until]) => ({ time: { from, until } })),
    some(pick(['mon', 'wed', 'sun'])).map(list => ({ weekday: { in: list } })),
    some(pick(['phone', 'desktop'])).map(list => ({ device: { in: list } })),
    some(pick(['firefox', 'Old "Lynx"', 'and'])).map(list => ({ browser: { in: list } })),
    some(pick(['IE', 'GB', 'BA', 'MM', 'HK', 'ZZ'])).map(list => ({ country: { in: list } })),
    some(pick(['ES-CT', 'US-OR'])).map(list => ({ region: { in: list } })),
    some(pick(['en', 'pt-BR', 'is'])).map(list => ({ language: { in: list } })),
    some(pick(['192.0.2.0/24', '2001:db8::/32'])).map(list => ({ address: { in: list } })),
    some(pick(['wexlow.example', 'or.example'])).map(list => ({ referrer: { in: list } })),
    fc
      .tuple(pick(['draft', 'x y', 'as']), fc.option(some(pick(['1', '', 'a,b', 'yes'])), { nil: undefined }))
      .map(([name, list]) => ({ query: list ? { name, in: list } : { name } })),
    fc
      .constantFrom<unknown>(
        { name: 'spindles', atLeast: 2.5, atMost: 1e21 },
        { name: 'hall', in: ['north', 'south'] },
        { name: 'vat-checked', is: false },
        { name: 'apprenticed', atMost: '2019-12-31' },
        { name: 'shop-name', is: 'say "or"' },
        { name: 'spindles', is: -3, in: [1, 2] },
      )
      .map(fact => ({ fact })),
    audience.map(id => ({ audience: id })),
    ...(options.opens
      ? [
          pick(['home', 'join']).map(page => ({ opens: { page } })),
          fc.constant({ opens: { route: 'GET /orders' } }),
          fc.constant({ opens: { product: 'bobbin' } }),
        ]
      : []),
    ...(options.record
      ? [
          fc.constant({ mine: true }),
          fc.constant({ assigned: 'borrower' }),
          fc.constant({ record: { field: 'returned', is: true } }),
          fc.constant({ record: { field: 'deposit', atLeast: 100 } }),
        ]
      : []),
  ]
  return fc.oneof(...leaves) as fc.Arbitrary<Condition>
}

export function anyCondition(leaf: fc.Arbitrary<Condition>): fc.Arbitrary<Condition> {
  return fc.letrec<{ node: Condition }>(tie => ({
    node: fc.oneof(
      { maxDepth: 4, withCrossShrink: true },
      { weight: 3, arbitrary: leaf },
      { weight: 1, arbitrary: fc.array(tie('node'), { maxLength: 3 }).map(all => ({ all })) },
      { weight: 1, arbitrary: fc.array(tie('node'), { maxLength: 3 }).map(any => ({ any })) },
      { weight: 1, arbitrary: tie('node').map(not => ({ not })) },
    ),
  })).node
}

const anyTreatment: fc.Arbitrary<Treatment> = fc.constantFrom<Treatment>(
  { absent: true },
  { teaser: true },
  { dimmed: true },
  { notice: { text: 'Not yet' } },
  { redirect: { to: '/join' } },
  { swap: { block: 'join-card' } },
)
const anyOtherwise: fc.Arbitrary<Otherwise> = fc.oneof(
  anyTreatment,
  fc
    .record({ guest: anyTreatment, signedIn: anyTreatment }, { requiredKeys: [] })
    .filter(one => Object.keys(one).length > 0),
)

/** Gates over every scope of the shared site. `opens` asks only of pages the scopes below do not gate by name. */
export function anyGates(file: { book: Rulebook; site: Site }): fc.Arbitrary<Gate[]> {
  const plain = anyCondition(anyLeaf(file))
  const scopes: Scope[] = [
    { everything: true },
    ...kinds.map(kind => ({ kind })),
    { path: '/trade/**' },
    { path: '/notes/*?preview=1' },
    { path: '/orders' },
    { page: 'trade', below: true },
    { page: 'trade-prices' },
    { page: 'lookbook' },
    { topic: 'mill-notes' },
    { topic: 'dye-day' },
    { category: 'yarn' },
    { category: 'yarn-lace' },
    { category: 'kits' },
    { category: 'tools' },
    { folder: 'patterns' },
    { product: 'loom-kit' },
    { product: 'tarn-cone' },
    { product: 'tarn-cone-moss' },
    { block: 'vat-recipe' },
    { block: 'recipe-steps' },
    { block: 'welcome-guild' },
    { menuItem: 'm-trade' },
    { route: 'GET /orders' },
    { register: 'loom-loans' },
    { download: 'beanie' },
    { post: 'shearing' },
  ]
  const recordScopes: Scope[] = [{ records: 'loom-loans' }, { field: 'loom-loans/deposit' }]
  const gate = (on: fc.Arbitrary<Scope>, condition: fc.Arbitrary<Condition>) =>
    fc.record(
      {
        on,
        open: condition,
        find: condition,
        search: condition,
        price: condition,
        take: condition,
        inherit: fc.boolean(),
        otherwise: anyOtherwise,
        takeNotice: fc.constant({ text: 'Later' }),
        active: fc.constantFrom(true, true, false),
      },
      { requiredKeys: ['on'] },
    )
  const onRecords = anyCondition(anyLeaf(file, { record: true }))
  return fc
    .array(
      fc.oneof(
        { weight: 8, arbitrary: gate(fc.constantFrom(...scopes), plain) },
        { weight: 1, arbitrary: gate(fc.constantFrom(...recordScopes), onRecords) },
        {
          weight: 1,
          arbitrary: gate(fc.constant<Scope>({ page: 'cabling' }), anyCondition(anyLeaf(file, { opens: true }))),
        },
      ),
      { maxLength: 10 },
    )
    .map(list => list.map((one, i) => ({ id: `g${i}`, ...one }) as Gate))
}

export const anyVisitor: fc.Arbitrary<Visitor> = fc.record(
  {
    person: fc.constantFrom({ id: 'p-ana', name: 'Ana' }, { id: 'p-gu' }, { id: 'p-ma' }, { id: 'p-fr' }, null),
    firm: fc.constant('gullhaven-knits'),
    levels: fc.array(
      fc.record({
        level: fc.constantFrom('friend', 'maker', 'guild'),
        since: fc.constantFrom('2026-01-31T12:00:00Z', '2026-06-09T10:00:00Z', '2027-01-01T00:00:00Z'),
      }),
      { maxLength: 2 },
    ),
    roles: fc.array(fc.constantFrom('stockist', 'classroom', 'keeper', 'islander'), { maxLength: 2 }),
    facts: fc.constantFrom<Record<string, unknown>>(
      {},
      { hall: 'north', spindles: 3 },
      { 'vat-checked': false, apprenticed: '2018-01-01' },
    ),
    bought: fc.constantFrom({}, { products: ['tarn-cone-moss'], categories: ['yarn'], orders: 2, spent: 4000 }),
    basket: fc.constantFrom([], [{ product: 'loom-kit', quantity: 1 }]),
    request: fc.record(
      {
        at: fc.constantFrom('2026-06-10T10:00:00Z', '2026-10-25T01:30:00Z', '2027-02-01T23:59:00Z'),
        device: fc.constant('phone'),
        country: fc.constantFrom('IE', 'GB'),
        language: fc.constant('en-GB'),
        address: fc.constant('192.0.2.7'),
        query: fc.constantFrom({}, { preview: '1' }, { draft: '1' }),
      },
      { requiredKeys: ['at'] },
    ),
  },
  { requiredKeys: ['request'] },
) as fc.Arbitrary<Visitor>
