/** Who asks, and everything a rule may look at. */
import { z } from 'zod'
import { instant, label, minor, reference, count, whole } from '../shapes'
import { requestShape } from './request-parts'

const text = z.string()

export const visitor = z.strictObject({
  person: z.strictObject({ id: label, name: text.optional(), email: text.optional() }).nullable().optional(),
  firm: reference.nullable().optional(),
  levels: z
    .array(z.strictObject({ level: reference, since: instant, until: instant.nullable().optional() }))
    .optional(),
  roles: z.array(reference).optional(),
  facts: z.record(z.string(), z.unknown()).optional(),
  /** What is said of their firm. Of facts that firms have (`ofFirms`) it counts where they say nothing of their own. */
  firmFacts: z.record(z.string(), z.unknown()).optional(),
  bought: z
    .strictObject({
      products: z.array(reference).optional(),
      categories: z.array(reference).optional(),
      orders: count.optional(),
      spent: minor.optional(),
    })
    .optional(),
  basket: z.array(z.strictObject({ product: reference, quantity: whole })).optional(),
  /** Offers they gave the code of, and until when each is kept for them. */
  codes: z.array(z.strictObject({ offer: reference, code: label, until: instant.nullable().optional() })).optional(),
  request: z
    .strictObject({
      at: instant.optional(),
      ...requestShape,
    })
    .optional(),
})
export type Visitor = z.infer<typeof visitor>

/** The same visitor, who asks so, or bought that, besides. */
export const withRequest = (visitor: Visitor, more: NonNullable<Visitor['request']>): Visitor => ({
  ...visitor,
  request: { ...visitor.request, ...more },
})
export const withBought = (visitor: Visitor, more: NonNullable<Visitor['bought']>): Visitor => ({
  ...visitor,
  bought: { ...visitor.bought, ...more },
})
