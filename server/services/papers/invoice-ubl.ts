/**
 * An invoice or a credit note in the Universal Business Language 2.1 (OASIS, ISO/IEC 19845). Each tax is a subtotal of
 * its own; a line names the taxes taken of it.
 */
import { create } from 'xmlbuilder2'
import { minorDigits } from '../../../core/money'
import type { InvoiceBody, InvoiceLine } from '../../../core/orders/order'
import { notInXml } from '../../../core/texts/control-characters'
import type { InvoiceRow } from './invoices'

const schemas = {
  invoice: 'urn:oasis:names:specification:ubl:schema:xsd:Invoice-2',
  credit: 'urn:oasis:names:specification:ubl:schema:xsd:CreditNote-2',
}
const aggregates = 'urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2'
const basics = 'urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2'

/** UNTDID 1001: 380 commercial invoice, 381 credit note. */
const typeCodes = { invoice: '380', credit: '381' } as const

/** Without what XML has no way to write (XML 1.0, 2.2): names of before were kept with it. */
const written = (body: InvoiceBody): InvoiceBody =>
  JSON.parse(JSON.stringify(body), (_, value: unknown) =>
    typeof value === 'string' ? value.replaceAll(notInXml, '') : value,
  ) as InvoiceBody

export function invoiceUbl({ number, kind, body: kept, issuedAt }: InvoiceRow): string {
  const body = written(kept)
  const { currency } = body
  const amount = (minor: number) => ({
    '@currencyID': currency,
    '#': (minor / 10 ** minorDigits(currency)).toFixed(minorDigits(currency)),
  })
  const isCredit = kind === 'credit'
  const lines = body.delivery ? [...body.lines, body.delivery] : body.lines
  const root = isCredit ? 'CreditNote' : 'Invoice'
  return create(
    { version: '1.0', encoding: 'UTF-8' },
    {
      [root]: {
        '@xmlns': schemas[kind],
        '@xmlns:cac': aggregates,
        '@xmlns:cbc': basics,
        'cbc:UBLVersionID': '2.1',
        'cbc:ID': number,
        'cbc:IssueDate': issuedAt.toISOString().slice(0, 10),
        [isCredit ? 'cbc:CreditNoteTypeCode' : 'cbc:InvoiceTypeCode']: typeCodes[kind],
        'cbc:DocumentCurrencyCode': currency,
        'cac:OrderReference': { 'cbc:ID': String(body.orderNumber) },
        ...(body.of ? { 'cac:BillingReference': { 'cac:InvoiceDocumentReference': { 'cbc:ID': body.of } } } : {}),
        'cac:AccountingSupplierParty': { 'cac:Party': sellerParty(body) },
        'cac:AccountingCustomerParty': { 'cac:Party': buyerParty(body) },
        'cac:TaxTotal': {
          'cbc:TaxAmount': amount(body.tax),
          'cac:TaxSubtotal': body.taxes.map(tax => ({
            'cbc:TaxableAmount': amount(taxedBy(lines, tax)),
            'cbc:TaxAmount': amount(tax.amount),
            'cac:TaxCategory': categoryOf(tax),
          })),
        },
        'cac:LegalMonetaryTotal': {
          'cbc:LineExtensionAmount': amount(body.net),
          'cbc:TaxExclusiveAmount': amount(body.net),
          'cbc:TaxInclusiveAmount': amount(body.gross),
          'cbc:PayableAmount': amount(body.gross),
        },
        [isCredit ? 'cac:CreditNoteLine' : 'cac:InvoiceLine']: lines.map((line, i) => ({
          'cbc:ID': String(i + 1),
          // UN/ECE recommendation 20: H87 is a piece.
          [isCredit ? 'cbc:CreditedQuantity' : 'cbc:InvoicedQuantity']: {
            '@unitCode': 'H87',
            '#': String(line.quantity),
          },
          'cbc:LineExtensionAmount': amount(line.net),
          'cac:TaxTotal': { 'cbc:TaxAmount': amount(line.gross - line.net) },
          'cac:Item': {
            'cbc:Name': line.title,
            ...(line.taxes.length ? { 'cac:ClassifiedTaxCategory': line.taxes.map(categoryOf) } : {}),
          },
          'cac:Price': {
            'cbc:PriceAmount': { '@currencyID': currency, '#': perPiece(line, currency) },
          },
        })),
      },
    },
  ).end({ prettyPrint: true })
}

const sameTax = (one: { called: string; percent: string }, other: { called: string; percent: string }) =>
  one.called === other.called && one.percent === other.percent
/** What a tax was taken of: the lines it stands on. */
const taxedBy = (lines: readonly InvoiceLine[], tax: InvoiceBody['taxes'][number]) =>
  lines.filter(line => line.taxes.some(one => sameTax(one, tax))).reduce((sum, line) => sum + line.net, 0)

const categoryOf = ({ called, percent }: { called: string; percent: string }) => ({
  // UNTDID 5305: S standard rate, Z zero rated.
  'cbc:ID': Number(percent) ? 'S' : 'Z',
  'cbc:Name': called,
  'cbc:Percent': percent,
  'cac:TaxScheme': { 'cbc:ID': called },
})

/** Without tax, with as many digits as it takes to come to the line again. */
const perPiece = ({ net, quantity }: InvoiceLine, currency: string) =>
  (net / quantity / 10 ** minorDigits(currency)).toFixed(minorDigits(currency) + 4)

const sellerParty = ({ seller }: InvoiceBody) => ({
  'cac:PartyName': { 'cbc:Name': seller.name },
  'cac:PostalAddress': {
    ...(seller.address.postcode ? { 'cbc:PostalZone': seller.address.postcode } : {}),
    'cac:Country': { 'cbc:IdentificationCode': seller.address.country },
  },
  'cac:Contact': { 'cbc:ElectronicMail': seller.email },
})

const buyerParty = ({ buyer }: InvoiceBody) => ({
  'cac:PartyName': { 'cbc:Name': buyer.name },
  'cac:PostalAddress': {
    'cbc:StreetName': buyer.address.lines,
    'cbc:CityName': buyer.address.town,
    ...(buyer.address.postcode ? { 'cbc:PostalZone': buyer.address.postcode } : {}),
    ...(buyer.address.region ? { 'cbc:CountrySubentityCode': buyer.address.region } : {}),
    'cac:Country': { 'cbc:IdentificationCode': buyer.address.country },
  },
  'cac:Contact': { 'cbc:ElectronicMail': buyer.email },
})
