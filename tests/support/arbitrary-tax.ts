/** Random taxes over the shared case's site, for property tests. */
import fc from 'fast-check'
import type { Condition } from '../../core/conditions/condition'
import type { Rulebook } from '../../core/rulebook/rulebook'
import type { Site } from '../../core/site/site'
import type { Address, Place } from '../../core/site/place'
import { anyScope } from './arbitrary-offers'
import { anyCondition, anyLeaf } from './arbitrary-rules'

interface World {
  book: Rulebook
  site: Site
}
type Tax = NonNullable<Rulebook['tax']>

const percent = fc.oneof(
  fc.constantFrom('0', '20', '5.5', 100),
  fc.integer({ min: 0, max: 300_000 }).map(n => (n / 10_000).toFixed(4)),
)
const areas = [
  {},
  { country: 'IE' },
  { country: 'ES' },
  { country: 'ES', region: 'ES-CT' },
  { country: 'IE', region: 'IE-D' },
]
const postcodes = ['D04 X2', 'd0', '35 001', '38', '9000']

export const anyAddress: fc.Arbitrary<Address> = fc
  .tuple(
    fc.constantFrom(...areas.slice(1), { country: 'NO' }),
    fc.option(fc.constantFrom(...postcodes), { nil: undefined }),
  )
  .map(([area, postcode]) => ({ ...area, ...(postcode ? { postcode } : {}) }) as Address)

const anyPlace: fc.Arbitrary<Place> = fc
  .tuple(
    fc.constantFrom(...areas),
    fc.option(fc.uniqueArray(fc.constantFrom('D', 'd0 4', '3', '35', '38', 'T'), { minLength: 1, maxLength: 2 }), {
      nil: undefined,
      freq: 4,
    }),
  )
  .map(([area, startsWith]) => ({ ...area, ...(startsWith ? { startsWith } : {}) }))

const category = fc.constantFrom('standard', 'reduced')
const showing = fc.constantFrom('withTax' as const, 'withoutTax' as const)
const partsShown = {
  list: showing,
  basket: showing,
  pay: showing,
  taxLines: fc.constantFrom('summed' as const, 'each' as const),
  note: fc.constantFrom('', 'plus tax', '{net} before, {gross} with'),
}
const taxIds = ['vat', 'levy', 'harbour'] as const

/** Taxes stand on those before them, so that they make no ring; exceptions may. */
export const anyTax = (world: World): fc.Arbitrary<Tax> => {
  const condition: fc.Arbitrary<Condition> = fc.oneof(
    fc.constant<Condition>({ everyone: true }),
    fc.constant<Condition>({ signedIn: true }),
    anyCondition(anyLeaf(world)),
  )
  const numbered = <T extends object>(list: readonly T[], name: string) =>
    list.map((one, i) => ({ ...one, id: `${name}${i}` }))
  const rates = fc
    .array(
      fc.record(
        {
          tax: fc.constantFrom(...taxIds),
          place: anyPlace,
          category,
          percent,
          delivery: fc.constantFrom('taxed' as const, 'free' as const),
        },
        { requiredKeys: ['tax', 'place', 'category', 'percent'] },
      ),
      { maxLength: 12 },
    )
    .map(list => numbered(list, 'r'))
  return rates.chain(rates =>
    fc.record({
      settings: fc.record(
        {
          typed: showing,
          origin: anyAddress,
          place: fc.constantFrom('destination' as const, 'origin' as const),
          keepGross: fc.boolean(),
          deliveryCategory: category,
          shown: fc.record(partsShown, { requiredKeys: [] }),
        },
        { requiredKeys: ['typed', 'origin'] },
      ),
      taxes: fc.tuple(fc.subarray(['vat']), fc.subarray(['vat', 'levy'])).map(([levy, harbour]) => [
        { id: 'vat', name: 'VAT' },
        { id: 'levy', onTopOf: levy },
        { id: 'harbour', onTopOf: harbour },
      ]),
      rates: fc.constant(rates),
      exceptions: rates.length
        ? fc
            .array(
              fc.record(
                {
                  for: condition,
                  rate: fc.constantFrom(...rates.map(one => one.id)),
                  percent,
                  called: fc.constantFrom('School rate', 'Island rate'),
                  onTopOf: fc.subarray([...taxIds]),
                  delivery: fc.constantFrom('taxed' as const, 'free' as const),
                  none: fc.boolean(),
                  owedBy: fc.constant('buyer' as const),
                  reason: fc.constant('Owed by the buyer'),
                  active: fc.boolean(),
                },
                { requiredKeys: ['for', 'rate'] },
              ),
              { maxLength: 5 },
            )
            .map(list => numbered(list, 'e'))
        : fc.constant([]),
      goods: fc
        .array(
          fc.record(
            {
              for: condition,
              on: anyScope(world),
              goodsTaxed: fc.boolean(),
              deliveryTaxed: fc.boolean(),
              category,
              active: fc.boolean(),
            },
            { requiredKeys: ['for', 'on'] },
          ),
          { maxLength: 4 },
        )
        .map(list => numbered(list, 'g')),
      shown: fc
        .array(fc.record({ for: condition, active: fc.boolean(), ...partsShown }, { requiredKeys: ['for'] }), {
          maxLength: 3,
        })
        .map(list => numbered(list, 's')),
    }),
  ) as fc.Arbitrary<Tax>
}
