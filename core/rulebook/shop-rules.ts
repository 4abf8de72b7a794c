/** Offers and tax: their shapes. What they mean is in `core/shop` and `core/tax`. */
import { z } from 'zod'
import { condition } from '../conditions/condition'
import {
  choices,
  country,
  id,
  isObject,
  label,
  minor,
  oneOfKeys,
  percentage,
  reference,
  region,
  report,
  shape,
  whole,
} from '../shapes'

const named = { id, name: z.string().optional(), note: z.string().optional() }
const switched = { ...named, active: z.boolean().optional() }

export type ShopScope = { shop: true } | { categories: string[] } | { products: string[] }
const shopScope = oneOfKeys<ShopScope>(() => ({
  shop: z.literal(true),
  categories: choices(reference),
  products: choices(reference),
}))

export type Off = { percent: string | number } | { amount: number } | { price: number }
const off = oneOfKeys<Off>(() => ({ percent: percentage(100), amount: minor, price: minor }))

const bandStart = shape<number>(sink => {
  if (!Number.isInteger(sink.value)) return report(sink, 'bad-value')
  if ((sink.value as number) < 1) report(sink, 'band-start')
})
const band = z.strictObject({ from: bandStart.optional(), to: z.int().optional(), off })

export const offer = z
  .strictObject({
    ...switched,
    for: condition.optional(),
    on: shopScope,
    counts: shopScope.optional(),
    code: label.optional(),
    /** `single`: nobody gives the code itself, but one of those made from it. Default: shared. */
    codes: z.enum(['shared', 'single']).optional(),
    /** How often its code works: for one person, and in all. Default: always. */
    uses: z.strictObject({ person: whole.optional(), all: whole.optional() }).optional(),
    by: z.enum(['each', 'product', 'variant', 'category', 'spend']).optional(),
    base: z.enum(['current', 'regular', 'unlessOnSale']).optional(),
    bands: z.array(band),
    bonus: z.strictObject({ buy: whole, get: whole }).optional(),
    combine: z.enum(['best', 'stack']).optional(),
    order: z.int().optional(),
  })
  .check(sink => {
    const value = sink.value as unknown as Record<string, unknown>
    if (
      value.combine === 'stack' &&
      ((value.base !== undefined && value.base !== 'current') || value.bonus !== undefined)
    )
      report(sink, 'stack-needs-current', ['combine'])
    for (const part of ['codes', 'uses'] as const)
      if (value[part] !== undefined && value.code === undefined) report(sink, 'needs-code', [part])
    if (value.by === 'spend' && value.bonus !== undefined) report(sink, 'spend-bonus', ['bonus'])
    checkBands(sink, value)
  })
export type Offer = z.infer<typeof offer>

function checkBands(sink: Parameters<typeof report>[0], value: Record<string, unknown>): void {
  const bands = value.bands
  if (!Array.isArray(bands)) return
  const each = value.by === undefined || value.by === 'each'
  if (bands.length === 0 || (each && bands.length !== 1)) report(sink, 'bands-count', ['bands'])
  const spans = bands.map(one =>
    isObject(one)
      ? {
          from: typeof one.from === 'number' ? one.from : 1,
          to: typeof one.to === 'number' ? one.to : Number.POSITIVE_INFINITY,
        }
      : null,
  )
  spans.forEach((span, j) => {
    if (!span) return
    const one = bands[j] as { off?: unknown }
    if (value.by === 'spend' && isObject(one.off) && 'price' in one.off)
      report(sink, 'spend-price', ['bands', j, 'off', 'price'])
    if (span.to < span.from) return report(sink, 'ends-before-start', ['bands', j, 'to'])
    if (each) return
    const overlaps = spans.slice(0, j).some(before => before && before.from <= span.to && span.from <= before.to)
    if (overlaps) report(sink, 'bands-overlap', ['bands', j, 'from'])
  })
}

const withTax = z.enum(['withTax', 'withoutTax'])
const lines = z.enum(['summed', 'each'])
const address = z.strictObject({ country, region: region.optional(), postcode: z.string().optional() })
const place = z
  .strictObject({ country: country.optional(), region: region.optional(), startsWith: choices(label).optional() })
  .check(sink => {
    const value = sink.value as { country?: string; region?: string }
    if (value.region !== undefined && value.country === undefined) report(sink, 'region-needs-country', ['country'])
  })

/** What sending a basket costs, without tax: always the same, or by its weight in grams, the first step it is not heavier than. */
export type DeliveryCost = { flat: number } | { byWeight: { upTo?: number | undefined; cost: number }[] }
const deliveryCost = oneOfKeys<DeliveryCost>(() => ({
  flat: minor,
  byWeight: choices(z.strictObject({ upTo: whole.optional(), cost: minor })),
}))

export const delivery = z.strictObject({
  ...switched,
  for: condition.optional(),
  /** Where it goes. Default: anywhere. */ to: choices(place).optional(),
  cost: deliveryCost,
  /** Costs nothing where the goods that are sent come to so much, as typed, after discounts. */ freeFrom:
    minor.optional(),
})
export type Delivery = z.infer<typeof delivery>

const taxed = z.enum(['taxed', 'free'])
const percent = percentage(10_000)

export const taxSettings = z.strictObject({
  typed: withTax,
  origin: address,
  place: z.enum(['destination', 'origin']).optional(),
  keepGross: z.boolean().optional(),
  deliveryCategory: label.optional(),
  shown: z
    .strictObject({
      list: withTax.optional(),
      basket: withTax.optional(),
      pay: withTax.optional(),
      taxLines: lines.optional(),
      note: z.string().optional(),
    })
    .optional(),
})
export const tax = z.strictObject({ ...named, onTopOf: z.array(reference).optional() })
export const rate = z.strictObject({
  ...named,
  tax: reference,
  place,
  category: label,
  percent,
  delivery: taxed.optional(),
})
export const exception = z.strictObject({
  ...switched,
  for: condition,
  rate: reference,
  percent: percent.optional(),
  called: z.string().optional(),
  onTopOf: z.array(reference).optional(),
  delivery: taxed.optional(),
  none: z.boolean().optional(),
  /** The buyer owes it to the state, not the seller: nothing is taken, and the invoice says so (2006/112/EC, article 196 and the like). */
  owedBy: z.literal('buyer').optional(),
  /** What an invoice says of why nothing is taken. Default: the site's own words. */ reason: z
    .string()
    .max(300)
    .optional(),
})
export const goods = z.strictObject({
  ...switched,
  for: condition,
  on: shopScope,
  goodsTaxed: z.boolean().optional(),
  deliveryTaxed: z.boolean().optional(),
  category: label.optional(),
})
export const shown = z.strictObject({
  ...switched,
  /** A note of the operator's own: `note` is what stands behind a price. */ remark: z.string().optional(),
  for: condition,
  list: withTax.optional(),
  basket: withTax.optional(),
  pay: withTax.optional(),
  taxLines: lines.optional(),
  note: z.string().optional(),
})
