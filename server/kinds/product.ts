/** Goods. What is in store of one and what it costs is counted by the day, apart. */
import { z } from 'zod'
import { headPicture, id, path, picture, summary, title, words } from './server-kind'
import type { ServerKind } from './server-kind'

/** Minor units: a million of most currencies. */
const price = z
  .int('A whole number of the smallest coin.')
  .min(0, 'A price is not below nothing.')
  .max(100_000_000, 'That is more than any price here may be.')

const sale = z
  .strictObject({
    price,
    from: z.iso.date('A day such as 2026-11-24.').optional(),
    until: z.iso.date('A day such as 2026-11-24.').optional(),
  })
  .refine(({ from, until }) => !from || !until || from <= until, {
    message: 'The sale ends before it begins.',
    path: ['until'],
  })

/** What tells variants apart: a name, such as colour, and what this one is of it. */
const options = z
  .record(z.string().trim().min(1).max(40), z.string().trim().min(1).max(60))
  .refine(one => Object.keys(one).length <= 5, 'Five at most tell variants apart.')

export const product = {
  input: z.strictObject({
    title,
    path: path.optional(),
    of: id.optional(),
    options: options.optional(),
    categories: z.array(id).max(50).optional(),
    price: price.optional(),
    sale: sale.optional(),
    taxCategory: z.string().trim().min(1).max(60).optional(),
    goodsTaxed: z.boolean().optional(),
    deliveryTaxed: z.boolean().optional(),
    weight: z
      .int('Whole grams.')
      .min(0, 'Nothing weighs less than nothing.')
      .max(1_000_000, 'A ton at most.')
      .optional(),
    sent: z.boolean().optional(),
    gives: z
      .strictObject({ level: id.optional(), roles: z.array(id).max(20).optional() })
      .refine(one => one.level !== undefined || one.roles?.length, 'A level, or roles.')
      .optional(),
    summary: summary.default(''),
    words: words.default(''),
    picture: picture.default('plain'),
  }),
  pictures: headPicture,
  takesAlong: ['block', 'product'],
  problem: ({ of, options: chosen, categories }) => {
    if (chosen && of === undefined) return { at: ['options'], message: 'Only a variant says what tells it apart.' }
    if (of !== undefined && (categories as unknown[] | undefined)?.length)
      return { at: ['categories'], message: 'A variant lies in the categories of its product.' }
    return undefined
  },
} as const satisfies ServerKind
