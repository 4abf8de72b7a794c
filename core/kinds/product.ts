/** Goods, in categories. A variant lies in its parent's categories, and its parent's gates are read before its own. */
import { z } from 'zod'
import { key } from '../shapes'
import { kindOf, namesEach, namesOne, titled, written } from './kind'
import type { Lookup, Place } from './kind'

const sale = z.strictObject({
  /** Minor units. */ price: z.int(),
  /** Local dates, both included. */ from: z.string().optional(),
  until: z.string().optional(),
})

const shape = z.strictObject({
  ...titled,
  ...written,
  /** The product it is a variant of, from which it has whatever it leaves out. */ of: key.optional(),
  /** What tells a variant from the others, such as `{ colour: 'moss' }`; no rule looks at it. */
  options: z.record(z.string(), z.string()).optional(),
  path: key.optional(),
  categories: z.array(key).optional(),
  price: z.int().optional(),
  sale: sale.optional(),
  taxCategory: z.string().optional(),
  goodsTaxed: z.boolean().optional(),
  deliveryTaxed: z.boolean().optional(),
  /** Grams of one. */ weight: z.int().optional(),
  /** Nothing is sent: a course, a token, a level. Default: it is. */ sent: z.boolean().optional(),
  /** What whoever buys it holds from then on: a level for its period, visitor roles until it is refunded. */
  gives: z.strictObject({ level: key.optional(), roles: z.array(key).optional() }).optional(),
})
export type Product = z.infer<typeof shape>

/** Categories of a product; a variant lies in its parent's. */
export function categoriesOf(thing: Product, look: Lookup): readonly string[] {
  const seen = new Set([thing.id])
  for (let at = thing; ;) {
    const parent =
      at.of === undefined || seen.has(at.of) ? undefined : (look.get('product', at.of) as Product | undefined)
    if (!parent) return at.categories ?? []
    seen.add(parent.id)
    at = parent
  }
}

/** What whoever buys it holds from then on: its own, or its product's. */
export const givesOf = (thing: Product | undefined, look: Lookup): Product['gives'] =>
  thing?.gives ?? (thing?.of === undefined ? undefined : (look.get('product', thing.of) as Product | undefined)?.gives)

/** Categories a product lies in, with all around them, each once. */
export const categoriesAround = (thing: Product, look: Lookup): string[] => [
  ...new Set(categoriesOf(thing, look).flatMap(category => look.lineage('category', category))),
]

/** Whether a product lies in a category, or in one below it. */
export const liesInCategory = (thing: Product, category: string, look: Lookup): boolean =>
  categoriesOf(thing, look).some(one => look.lineage('category', one).includes(category))

export const product = kindOf<Product>()({
  parts: {
    passages: 'summary',
    broken: 'summary',
    title: 'title',
    path: 'address',
    summary: 'summary',
    words: 'summary',
    picture: 'pictures',
    categories: 'categories',
    of: 'categories',
    options: 'categories',
    price: { kind: 'prices' },
    sale: { kind: 'prices' },
    taxCategory: { kind: 'prices' },
    goodsTaxed: { kind: 'prices' },
    deliveryTaxed: { kind: 'prices' },
    // What sending it costs hangs on both.
    weight: { kind: 'prices' },
    sent: { kind: 'prices' },
    // Whoever decides what levels bring decides what brings a level.
    gives: { kind: 'levels' },
  },
  list: 'products',
  shape,
  rights: ['find', 'search', 'open', 'price', 'take'],
  takeNotice: true,
  path: thing => thing.path,
  names: thing => [
    ...namesOne('product', 'of', thing.of, true),
    ...namesEach('category', 'categories', thing.categories),
  ],
  ways: (thing, look) =>
    categoriesOf(thing, look)
      .map(category => look.lineage('category', category).map((id): Place => ({ on: 'category', id })))
      .filter(way => way.length > 0),
  before: thing => (thing.of ? { on: 'product', id: thing.of } : undefined),
  wrong: (thing, look) => {
    const parent = thing.of === undefined ? undefined : (look.get('product', thing.of) as Product | undefined)
    return parent?.of === undefined ? [] : [{ at: ['of'], code: 'variant-of-variant', found: thing.of }]
  },
})
