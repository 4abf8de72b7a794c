/** Who sells: what an invoice must say of them (2006/112/EC, article 226; EN 16931, BG-4), and what is still missing. */
import { z } from 'zod'
import { foldedVatNumber, isVatNumber } from '../visitor/vat-number'

const said = (most: number) => z.string().trim().max(most).default('')

export const sellerSaid = z.strictObject({
  /** As the register has it. Default: what the site is called. */ name: said(200),
  /** Street and house, one or two lines. */ lines: said(300),
  town: said(200),
  postcode: said(20),
  /** ISO 3166-1; none said: where prices are at home. */
  country: z
    .string()
    .trim()
    .toUpperCase()
    .refine(value => value === '' || /^[A-Z]{2}$/.test(value), 'A country code of ISO 3166-1, such as IE.')
    .default(''),
  /** The register and the number in it. */ register: said(200),
  vatNumber: z
    .string()
    .max(40)
    .transform(foldedVatNumber)
    .refine(value => value === '' || isVatNumber(value), 'The form its country gives is expected, such as IE6388047V.')
    .default(''),
  /** Where there is no VAT number, or beside it: what the tax office knows them by. */ taxNumber: said(60),
})
export type SellerSaid = z.infer<typeof sellerSaid>

const needed = {
  name: 'the legal name',
  lines: 'the street',
  town: 'the town',
  vatNumber: 'the VAT number, or the number of the tax office',
} as const

/** What an invoice with tax on it must say and cannot yet. */
export const missingOfSeller = (seller: SellerSaid): string[] =>
  (Object.keys(needed) as (keyof typeof needed)[])
    .filter(key => !seller[key] && !(key === 'vatNumber' && seller.taxNumber))
    .map(key => needed[key])
