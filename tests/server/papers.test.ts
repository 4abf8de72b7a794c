import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { quoteBasket } from '../../core/orders/basket-quote'
import { creditBody, invoiceBody } from '../../core/orders/invoice-body'
import type { PaperOrder, PaperSeller } from '../../core/orders/invoice-body'
import { missingOfSeller, sellerSaid } from '../../core/orders/seller'
import type { InvoiceBody } from '../../core/orders/order'
import { reasonsOf } from '../../core/orders/paper-words'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { CompiledRules } from '../../core/gates/compiled'
import { SiteIndex } from '../../core/site/site-index'
import type { Rulebook } from '../../core/rulebook/rulebook'
import { englishWords, sayWord } from '../../core/site-words/site-words'
import { isVatNumber, foldedVatNumber, vatCountry } from '../../core/visitor/vat-number'
import { invoiceUbl } from '../../server/services/papers/invoice-ubl'
import { brokenRules } from '../support/en16931'

const seller: PaperSeller = {
  name: 'Wexlow Mill Limited',
  email: 'mill@wexlow.example',
  address: { country: 'IE', lines: 'The Long Shed\nBurn Lane', town: 'Wexlow', postcode: 'WX4 MILL' },
  register: 'Companies register, 000417',
  vatNumber: 'IE6388047V',
}
const rates = [
  { id: 'ie', tax: 'vat', place: { country: 'IE' }, category: 'standard', percent: '23' },
  { id: 'ie-low', tax: 'vat', place: { country: 'IE' }, category: 'low', percent: '13.5' },
  { id: 'ie-books', tax: 'vat', place: { country: 'IE' }, category: 'books', percent: '0' },
  { id: 'de', tax: 'vat', place: { country: 'DE' }, category: 'standard', percent: '19' },
  { id: 'else', tax: 'vat', place: {}, category: 'standard', percent: '0' },
]
const book = (tax: Partial<NonNullable<Rulebook['tax']>> = {}): Rulebook => ({
  bravik: 'rulebook/1',
  deliveries: [{ id: 'post', name: 'Post', cost: { flat: 500 } }],
  offers: [{ id: 'off', for: { everyone: true }, on: { products: ['yarn'] }, bands: [{ off: { percent: '10' } }] }],
  tax: {
    settings: { typed: 'withTax', origin: { country: 'IE' }, place: 'destination' },
    taxes: [{ id: 'vat', name: 'VAT' }],
    rates,
    ...tax,
  } as Rulebook['tax'],
})
const products = [
  { id: 'yarn', path: '/yarn', price: 1111, categories: [] },
  { id: 'seed', path: '/seed', price: 333, categories: [], taxCategory: 'low' },
  { id: 'book', path: '/book', price: 2000, categories: [], taxCategory: 'books' },
  { id: 'free', path: '/free', price: 700, categories: [], goodsTaxed: false },
]
type Bought = [product: string, quantity: number][]
function order(
  bought: Bought,
  { to = 'IE', rules = book(), vatNumber }: { to?: string; rules?: Rulebook; vatNumber?: string } = {},
): PaperOrder {
  const index = new SiteIndex({ timezone: 'Europe/Dublin', currency: 'EUR', products } as never)
  const decider = new CompiledDecider(new CompiledRules(rules, index), { person: null }, 0)
  const address = { country: to, lines: '1 Quay', town: 'Town', postcode: '12345' }
  const lines = bought.map(([product, quantity]) => ({ product, quantity }))
  const quote = quoteBasket(decider, { lines, sentTo: address, delivery: 'post', when: 'pay' })
  return {
    number: 17,
    name: 'Una Best',
    email: 'una@best.example',
    frozen: {
      edition: 1,
      currency: 'EUR',
      titles: {},
      basket: quote.basket,
      shown: quote.shown,
      address,
      delivery: { id: 'post', name: 'Post' },
      codes: [],
      note: '',
      gift: null,
      buyer: { levels: [], roles: [], ...(vatNumber ? { vatNumber } : {}) },
    },
  }
}
const xmlOf = (body: InvoiceBody, kind: 'invoice' | 'credit' = 'invoice') =>
  invoiceUbl({ number: '2026-00001', kind, body, issuedAt: new Date('2026-06-10T10:00:00Z') } as never)
const categories = (body: InvoiceBody) => body.lines.map(one => one.vat?.category)
const owed = book({
  exceptions: [{ id: 'firms', for: { everyone: true }, rate: 'de', owedBy: 'buyer' }],
})

describe('an invoice by EN 16931', () => {
  it.each<[string, InvoiceBody, string[]]>([
    [
      'standard and zero rates',
      invoiceBody(
        order([
          ['yarn', 3],
          ['seed', 2],
          ['book', 1],
        ]),
        seller,
      ),
      ['S', 'S', 'Z'],
    ],
    [
      'goods that are not taxed',
      invoiceBody(
        order([
          ['yarn', 1],
          ['free', 2],
        ]),
        seller,
      ),
      ['S', 'E'],
    ],
    ['export', invoiceBody(order([['yarn', 1]], { to: 'US' }), seller), ['G']],
    [
      'tax owed by the buyer',
      invoiceBody(order([['yarn', 2]], { to: 'DE', rules: owed, vatNumber: 'DE136695976' }), seller),
      ['AE'],
    ],
    [
      'a seller known to no tax office',
      invoiceBody(order([['free', 1]], { rules: book({ rates: [] }) }), {
        ...seller,
        vatNumber: undefined,
      } as PaperSeller),
      ['O'],
    ],
  ])('keeps every rule: %s', (_, body, expected) => {
    expect(categories(body)).toEqual(expected)
    expect(brokenRules(xmlOf(body))).toEqual([])
  })

  it('keeps them whatever is bought, and a credit note of any part names its invoice', () => {
    const anyBought = fc
      .uniqueArray(fc.constantFrom('yarn', 'seed', 'book', 'free'), { minLength: 1 })
      .chain(ids => fc.tuple(...ids.map(id => fc.tuple(fc.constant(id), fc.integer({ min: 1, max: 400 })))))
    fc.assert(
      fc.property(anyBought, fc.constantFrom('IE', 'DE', 'US'), fc.boolean(), (bought, to, withDelivery) => {
        const made = order(bought as Bought, { to })
        expect(brokenRules(xmlOf(invoiceBody(made, seller)))).toEqual([])
        const { lines, delivery } = made.frozen.basket
        const back = {
          lines: lines
            .slice(0, 1)
            .flatMap((line, position) => ('refused' in line ? [] : [{ ...line, position, pieces: line.quantity }])),
          delivery: withDelivery ? delivery : null,
        }
        const credit = creditBody(made, { back: back as never, of: '2026-00001' }, seller)
        const xml = xmlOf(credit, 'credit')
        expect(brokenRules(xml)).toEqual([])
        expect(xml).toContain('<cac:InvoiceDocumentReference>')
      }),
      { numRuns: 60 },
    )
  })

  it('says why nothing is taken: in the words of the terms, else in the usual ones, and not that it is zero rated', () => {
    const say = (key: Parameters<typeof sayWord>[1], facts = {}) => sayWord(englishWords, key, facts)
    const body = invoiceBody(order([['yarn', 1]], { to: 'DE', rules: owed, vatNumber: 'DE136695976' }), seller)
    expect(body.gross).toBe(body.net)
    expect(reasonsOf(body, say)).toEqual(['Reverse charge: the tax is owed by the buyer'])
    const own = structuredClone(owed)
    own.tax!.exceptions![0]!.reason = 'Article 196'
    const named = invoiceBody(order([['yarn', 1]], { to: 'DE', rules: own, vatNumber: 'DE136695976' }), seller)
    expect(reasonsOf(named, say)).toEqual(['Article 196'])
    expect(xmlOf(named)).toContain('<cbc:TaxExemptionReason>Article 196')
  })

  it('is marked as one only where all is said that it asks for, and the rules notice what is not', () => {
    const taxed = order([['yarn', 1]])
    const bare = { name: 'Mill', email: 'a@b.example', address: { country: 'IE' } }
    expect(xmlOf(invoiceBody(taxed, bare))).not.toContain('CustomizationID')
    expect(brokenRules(xmlOf(invoiceBody(taxed, bare)))).toEqual(
      expect.arrayContaining(['BR-01', 'BR-CO-26', 'BR-S-02']),
    )
    // The buyer owes it without a number of theirs.
    const unnumbered = invoiceBody(order([['yarn', 1]], { to: 'DE', rules: owed }), seller)
    expect(xmlOf(unnumbered)).not.toContain('CustomizationID')
    expect(brokenRules(xmlOf(invoiceBody(taxed, seller)).replace('<cbc:Percent>23', '<cbc:Percent>2.3'))).toContain(
      'BR-*-01 and 08',
    )
    // More than one tax on a line is more than it can say.
    const levied = book({
      taxes: [
        { id: 'vat', name: 'VAT' },
        { id: 'levy', name: 'Levy', onTopOf: ['vat'] },
      ],
      rates: [...rates, { id: 'levy', tax: 'levy', place: {}, category: 'standard', percent: '1' }],
    })
    const xml = xmlOf(invoiceBody(order([['yarn', 1]], { rules: levied }), seller))
    expect(xml).not.toContain('CustomizationID')
    expect(xml).toContain('<cbc:ID>Levy</cbc:ID>')
  })
})

describe('who sells', () => {
  it('is told what is missing until an invoice can be written', () => {
    expect(missingOfSeller(sellerSaid.parse({}))).toHaveLength(4)
    const said = { name: 'Mill Ltd', lines: '1 Lane', town: 'Town', vatNumber: 'ie 6388047 v' }
    expect(missingOfSeller(sellerSaid.parse(said))).toEqual([])
    expect(sellerSaid.parse(said).vatNumber).toBe('IE6388047V')
    expect(missingOfSeller(sellerSaid.parse({ ...said, vatNumber: '', taxNumber: '12/345' }))).toEqual([])
    expect(sellerSaid.safeParse({ vatNumber: 'IE12' }).success).toBe(false)
  })
})

it.each([
  ['IE6388047V', 'IE'],
  ['DE 136 695 976', 'DE'],
  ['el094259216', 'GR'],
  ['XI980780684', 'GB'],
  ['FR40 303265045', 'FR'],
  ['DE12345678', undefined],
  ['US123', undefined],
  ['136695976', undefined],
])('the VAT number %s is of %s', (typed, country) => {
  expect(isVatNumber(foldedVatNumber(typed))).toBe(country !== undefined)
  expect(vatCountry(foldedVatNumber(typed))).toBe(country)
})
