/** Random offers and baskets over the shared case's site, for property tests. */
import fc from 'fast-check'
import type { Condition } from '../../core/conditions/condition'
import type { Off, Offer, ShopScope } from '../../core/rulebook/shop-rules'
import type { Rulebook } from '../../core/rulebook/rulebook'
import type { BasketLine } from '../../core/shop/price-trail'
import type { Site } from '../../core/site/site'
import { anyCondition, anyLeaf } from './arbitrary-rules'

interface World {
  book: Rulebook
  site: Site
}

export const codes = ['FLEECE', 'fleece', 'Möhre', '🐑'] as const

export const anyScope = ({ site }: World): fc.Arbitrary<ShopScope> => {
  const several = (ids: string[]) => fc.uniqueArray(fc.constantFrom(...ids), { minLength: 1, maxLength: 3 })
  return fc.oneof(
    fc.constant<ShopScope>({ shop: true }),
    several(site.categories!.map(one => one.id)).map(categories => ({ categories })),
    several(site.products!.map(one => one.id)).map(products => ({ products })),
  )
}

const percent = fc.oneof(
  fc.integer({ min: 0, max: 100 }),
  fc.integer({ min: 0, max: 1_000_000 }).map(n => (n / 10_000).toFixed(4)),
)
const anyOff = (bySpend: boolean): fc.Arbitrary<Off> =>
  fc.oneof(
    percent.map((percent): Off => ({ percent })),
    fc.nat(5000).map((amount): Off => ({ amount })),
    ...(bySpend ? [] : [fc.nat(5000).map((price): Off => ({ price }))]),
  )

/** Bands that follow one another, with a hole here and there. */
const anyBands = (by: NonNullable<Offer['by']>): fc.Arbitrary<Offer['bands']> => {
  const off = anyOff(by === 'spend')
  if (by === 'each') return off.map(one => [{ off: one }])
  const step = by === 'spend' ? 9000 : 5
  return fc
    .array(fc.record({ length: fc.integer({ min: 1, max: step }), hole: fc.nat(1), off }), {
      minLength: 1,
      maxLength: 3,
    })
    .map(list => {
      let from = 1
      return list.map(({ length, hole, off: one }, i) => {
        const start = from + hole
        from = start + length
        return i === list.length - 1 && hole ? { from: start, off: one } : { from: start, to: from - 1, off: one }
      })
    })
}

export const anyOffer = (world: World): fc.Arbitrary<Omit<Offer, 'id'>> => {
  const condition: fc.Arbitrary<Condition> = fc.oneof(
    fc.constant<Condition>({ everyone: true }),
    anyCondition(anyLeaf(world)),
  )
  return fc.constantFrom(...(['each', 'product', 'variant', 'category', 'spend'] as const)).chain(by =>
    fc
      .record(
        {
          for: condition,
          on: anyScope(world),
          by: fc.constant(by),
          bands: anyBands(by),
          counts: anyScope(world),
          code: fc.constantFrom(...codes),
          active: fc.boolean(),
          order: fc.integer({ min: 98, max: 102 }),
          base: fc.constantFrom(...(['current', 'regular', 'unlessOnSale'] as const)),
          combine: fc.constantFrom(...(['best', 'stack'] as const)),
          bonus: fc.record({ buy: fc.integer({ min: 1, max: 3 }), get: fc.integer({ min: 1, max: 2 }) }),
        },
        { requiredKeys: ['on', 'by', 'bands'] },
      )
      .map(({ combine, bonus, ...offer }) => {
        const mayStack = offer.base === undefined || offer.base === 'current'
        if (combine === 'stack' && mayStack) return { ...offer, combine }
        return { ...offer, ...(bonus && by !== 'spend' ? { bonus } : {}) }
      }),
  )
}

export const anyOffers = (world: World): fc.Arbitrary<Offer[]> =>
  fc
    .array(anyOffer(world), { maxLength: 7 })
    .map(list => list.map((offer, i) => ({ ...offer, id: `o${(i * 3) % 7}` }) as Offer))

export const anyLines = ({ site }: World): fc.Arbitrary<BasketLine[]> =>
  fc.array(
    fc.record({
      product: fc.constantFrom(...site.products!.map(one => one.id), 'nothing'),
      quantity: fc.integer({ min: 1, max: 12 }),
    }),
    { maxLength: 6 },
  )
