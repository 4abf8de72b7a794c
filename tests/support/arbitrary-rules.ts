/** Random conditions, gates and visitors over the shared case's site, for property tests. */
import fc from 'fast-check'
import type { Condition } from '../../core/conditions/condition'
import type { LeafArgument, LeafKey } from '../../core/conditions/leaves/leaves'
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
  const given: { [K in LeafKey]: fc.Arbitrary<LeafArgument<K>>[] } = {
    everyone: [fc.constant(true as const)],
    nobody: [fc.constant(true as const)],
    signedIn: [fc.boolean()],
    level: [
      level.map(atLeast => ({ atLeast })),
      level.map(atMost => ({ atMost })),
      some(level).map(list => ({ in: list })),
    ],
    role: [some(role).map(anyOf => ({ anyOf })), some(role).map(allOf => ({ allOf }))],
    audience: [audience],
    permission: [pick(book.permissions!.map(one => one.id))],
    person: [some(pick(['p-ana', 'p x "y"', 'p-gu'])).map(list => ({ in: list }))],
    firm: [some(pick(['gullhaven-knits', 'Sett & Sons'])).map(list => ({ in: list }))],
    bought: [product.map(id => ({ product: id })), category.map(id => ({ category: id }))],
    orders: [fc.nat(9).map(atLeast => ({ atLeast }))],
    spent: [fc.nat(99_999).map(atLeast => ({ atLeast }))],
    memberFor: [
      fc
        .tuple(duration, fc.option(level, { nil: undefined }))
        .map(([atLeast, of]) => (of ? { atLeast, level: of } : { atLeast })),
    ],
    basket: [product.map(id => ({ product: id })), category.map(id => ({ category: id }))],
    opens: options.opens
      ? [
          pick(['home', 'join']).map(page => ({ page })),
          fc.constant({ route: 'GET /orders' }),
          fc.constant({ product: 'bobbin' }),
        ]
      : [],
    date: [
      fc.tuple(day, day).map(([a, b]) => (a < b ? { from: a, until: b } : { from: a })),
      day.map(until => ({ until })),
      day.map(on => ({ from: on, until: on })),
    ],
    time: [
      fc
        .tuple(clock, clock)
        .filter(([a, b]) => a !== b)
        .map(([from, until]) => ({ from, until })),
    ],
    weekday: [some(fc.constantFrom('mon' as const, 'wed' as const, 'sun' as const)).map(list => ({ in: list }))],
    device: [some(fc.constantFrom('phone' as const, 'desktop' as const)).map(list => ({ in: list }))],
    browser: [some(pick(['firefox', 'Old "Lynx"', 'and'])).map(list => ({ in: list }))],
    region: [some(pick(['ES-CT', 'US-OR'])).map(list => ({ in: list }))],
    country: [some(pick(['IE', 'GB', 'BA', 'MM', 'HK', 'ZZ'])).map(list => ({ in: list }))],
    language: [some(pick(['en', 'pt-BR', 'is'])).map(list => ({ in: list }))],
    address: [some(pick(['192.0.2.0/24', '2001:db8::/32'])).map(list => ({ in: list }))],
    referrer: [some(pick(['wexlow.example', 'or.example'])).map(list => ({ in: list }))],
    query: [
      fc
        .tuple(pick(['draft', 'x y', 'as']), fc.option(some(pick(['1', '', 'a,b', 'yes'])), { nil: undefined }))
        .map(([name, list]) => (list ? { name, in: list } : { name })),
    ],
    fact: [
      fc.constantFrom<LeafArgument<'fact'>>(
        { name: 'spindles', atLeast: 2.5, atMost: 1e21 },
        { name: 'hall', in: ['north', 'south'] },
        { name: 'vat-checked', is: false },
        { name: 'apprenticed', atMost: '2019-12-31' },
        { name: 'shop-name', is: 'say "or"' },
        { name: 'spindles', is: -3, in: [1, 2] },
      ),
    ],
    mine: options.record ? [fc.constant(true as const)] : [],
    assigned: options.record ? [fc.constant('borrower')] : [],
    record: options.record
      ? [fc.constant({ field: 'returned', is: true }), fc.constant({ field: 'deposit', atLeast: 100 })]
      : [],
  }
  const leaves = Object.entries(given).flatMap(([key, list]) =>
    (list as fc.Arbitrary<unknown>[]).map(one => one.map(argument => ({ [key]: argument }))),
  )
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
