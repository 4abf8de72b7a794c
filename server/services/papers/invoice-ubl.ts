/**
 * An invoice or a credit note in the Universal Business Language 2.1 (OASIS, ISO/IEC 19845), by EN 16931-1:2017 and its
 * binding to UBL (CEN/TS 16931-3-2). Where more than one tax stands on a line, or what the standard asks of a seller is not
 * said yet, it is UBL without the standard's mark: each tax is then a subtotal of its own.
 */
import { create } from 'xmlbuilder2'
import { minorDigits, moneyWords } from '../../../core/money'
import type { InvoiceBody, InvoiceLine } from '../../../core/orders/order'
import { reductionWords } from '../../../core/orders/reduction-words'
import type { VatCategory } from '../../../core/orders/vat-category'
import { englishWords, sayWord } from '../../../core/site-words/site-words'
import { notInXml } from '../../../core/texts/control-characters'
import { whyWord } from '../../../core/orders/paper-words'
import type { InvoiceRow } from './invoices'

const schemas = {
  invoice: 'urn:oasis:names:specification:ubl:schema:xsd:Invoice-2',
  credit: 'urn:oasis:names:specification:ubl:schema:xsd:CreditNote-2',
}
const aggregates = 'urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2'
const basics = 'urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2'
/** BT-24: the specification the invoice follows. */
const standard = 'urn:cen.eu:en16931:2017'

/** UNTDID 1001: 380 commercial invoice, 381 credit note. */
const typeCodes = { invoice: '380', credit: '381' } as const
/** UNTDID 7161: DL delivery. */
const deliveryCode = 'DL'
/** VATEX, of the codes list of EN 16931: those that say the same as their category. */
const exemptionCodes: Partial<Record<VatCategory, string>> = {
  AE: 'VATEX-EU-AE',
  G: 'VATEX-EU-G',
  O: 'VATEX-EU-O',
}

/** Without what XML has no way to write (XML 1.0, 2.2): names of before were kept with it. */
const written = (body: InvoiceBody): InvoiceBody =>
  JSON.parse(JSON.stringify(body), (_, value: unknown) =>
    typeof value === 'string' ? value.replaceAll(notInXml, '') : value,
  ) as InvoiceBody

const allLines = ({ lines, delivery }: InvoiceBody) => (delivery ? [...lines, delivery] : lines)

/** Whether all is there that the standard asks for (BR-S-02, BR-AE-02, BR-CO-26 and the like). */
function followsStandard(body: InvoiceBody): boolean {
  const { seller, buyer } = body
  const categories = new Set(allLines(body).map(line => line.vat?.category))
  if (categories.has(undefined) || !seller.address.country) return false
  if (!seller.vatNumber && !seller.register) return false
  if (categories.has('O')) return true
  if (!seller.vatNumber && !seller.taxNumber) return false
  if (categories.has('G') && !seller.vatNumber) return false
  return !categories.has('AE') || Boolean(buyer.vatNumber)
}

type Xml = Record<string, unknown>

export function invoiceUbl({ number, kind, body: kept, issuedAt }: InvoiceRow): string {
  const body = written(kept)
  const { currency, seller, buyer, delivery } = body
  const isStandard = followsStandard(body)
  const isCredit = kind === 'credit'
  const amount = (minor: number) => ({
    '@currencyID': currency,
    '#': (minor / 10 ** minorDigits(currency)).toFixed(minorDigits(currency)),
  })
  // What is not by the standard has delivery as a line like any other.
  const lines = isStandard ? body.lines : allLines(body)
  const charge = isStandard && delivery ? delivery.net : 0
  const said = {
    say: (key: Parameters<typeof sayWord>[1], facts = {}) => sayWord(englishWords, key, facts),
    money: (minor: number) => moneyWords(minor, currency, 'en'),
  }
  const taxTotal = isStandard ? byCategory(body, amount) : byTax(body, amount)
  const root = isCredit ? 'CreditNote' : 'Invoice'
  return create(
    { version: '1.0', encoding: 'UTF-8' },
    {
      [root]: {
        '@xmlns': schemas[kind],
        '@xmlns:cac': aggregates,
        '@xmlns:cbc': basics,
        ...(isStandard ? { 'cbc:CustomizationID': standard } : { 'cbc:UBLVersionID': '2.1' }),
        'cbc:ID': number,
        'cbc:IssueDate': issuedAt.toISOString().slice(0, 10),
        [isCredit ? 'cbc:CreditNoteTypeCode' : 'cbc:InvoiceTypeCode']: typeCodes[kind],
        ...(body.off ? { 'cbc:Note': reductionWords(body.off, said) } : {}),
        'cbc:DocumentCurrencyCode': currency,
        'cac:OrderReference': { 'cbc:ID': String(body.orderNumber) },
        ...(body.of ? { 'cac:BillingReference': { 'cac:InvoiceDocumentReference': { 'cbc:ID': body.of } } } : {}),
        'cac:AccountingSupplierParty': { 'cac:Party': sellerParty(seller) },
        'cac:AccountingCustomerParty': { 'cac:Party': buyerParty(buyer) },
        ...(isStandard && delivery
          ? { 'cac:Delivery': { 'cac:DeliveryLocation': { 'cac:Address': addressOf(buyer.address) } } }
          : {}),
        ...(isStandard && delivery
          ? {
              'cac:AllowanceCharge': {
                'cbc:ChargeIndicator': 'true',
                'cbc:AllowanceChargeReasonCode': deliveryCode,
                'cbc:AllowanceChargeReason': delivery.title || 'Delivery',
                'cbc:Amount': amount(charge),
                'cac:TaxCategory': vatOf(delivery),
              },
            }
          : {}),
        'cac:TaxTotal': { 'cbc:TaxAmount': amount(body.tax), 'cac:TaxSubtotal': taxTotal },
        'cac:LegalMonetaryTotal': {
          'cbc:LineExtensionAmount': amount(body.net - charge),
          'cbc:TaxExclusiveAmount': amount(body.net),
          'cbc:TaxInclusiveAmount': amount(body.gross),
          ...(charge ? { 'cbc:ChargeTotalAmount': amount(charge) } : {}),
          // Both are written once the money has moved: nothing is left to pay.
          ...(isStandard ? { 'cbc:PrepaidAmount': amount(body.gross) } : {}),
          'cbc:PayableAmount': amount(isStandard ? 0 : body.gross),
        },
        [isCredit ? 'cac:CreditNoteLine' : 'cac:InvoiceLine']: lines.map((line, i) => ({
          'cbc:ID': String(i + 1),
          ...(line.off?.length ? { 'cbc:Note': line.off.map(one => reductionWords(one, said)).join(', ') } : {}),
          // UN/ECE recommendation 20: H87 is a piece.
          [isCredit ? 'cbc:CreditedQuantity' : 'cbc:InvoicedQuantity']: {
            '@unitCode': 'H87',
            '#': String(line.quantity),
          },
          'cbc:LineExtensionAmount': amount(line.net),
          ...(isStandard ? {} : { 'cac:TaxTotal': { 'cbc:TaxAmount': amount(line.gross - line.net) } }),
          'cac:Item': {
            'cbc:Name': line.title,
            ...(isStandard
              ? { 'cac:ClassifiedTaxCategory': vatOf(line) }
              : line.taxes.length
                ? { 'cac:ClassifiedTaxCategory': line.taxes.map(taxOf) }
                : {}),
          },
          'cac:Price': { 'cbc:PriceAmount': { '@currencyID': currency, '#': perPiece(line, currency) } },
        })),
      },
    },
  ).end({ prettyPrint: true })
}

const percentOf = ({ vat, taxes }: InvoiceLine) => (vat!.category === 'S' ? taxes[0]!.percent : '0')
/** The category of value added tax of a line (BG-30); outside the tax there is no percentage. */
const vatOf = (line: InvoiceLine): Xml => ({
  'cbc:ID': line.vat!.category,
  ...(line.vat!.category === 'O' ? {} : { 'cbc:Percent': percentOf(line) }),
  'cac:TaxScheme': { 'cbc:ID': 'VAT' },
})

type Amount = (minor: number) => Xml
const sumOf = (lines: readonly InvoiceLine[], of: (line: InvoiceLine) => number) =>
  lines.reduce((sum, line) => sum + of(line), 0)

/** By category and percentage (BG-23). */
function byCategory(body: InvoiceBody, amount: Amount): Xml[] {
  const groups = new Map<string, InvoiceLine[]>()
  for (const line of allLines(body)) groups.set(keyOf(line), [...(groups.get(keyOf(line)) ?? []), line])
  return [...groups.values()].map(lines => {
    const { category } = lines[0]!.vat!
    const why = whyWord(category)
    const own = [...new Set(lines.flatMap(line => line.vat!.reason ?? []))].join('; ')
    const code = exemptionCodes[category]
    const reason = why && {
      ...(code ? { 'cbc:TaxExemptionReasonCode': code } : {}),
      'cbc:TaxExemptionReason': own || sayWord(englishWords, why, {}),
    }
    const { 'cac:TaxScheme': scheme, ...told } = vatOf(lines[0]!)
    return {
      'cbc:TaxableAmount': amount(sumOf(lines, line => line.net)),
      'cbc:TaxAmount': amount(sumOf(lines, line => line.gross - line.net)),
      'cac:TaxCategory': { ...told, ...reason, 'cac:TaxScheme': scheme },
    }
  })
}
const keyOf = (line: InvoiceLine) => `${line.vat!.category} ${percentOf(line)}`

const sameTax = (one: { called: string; percent: string }, other: { called: string; percent: string }) =>
  one.called === other.called && one.percent === other.percent
/** Each tax by itself, of what it was taken of: the lines it stands on. */
function byTax(body: InvoiceBody, amount: Amount): Xml[] {
  const taxed = (tax: InvoiceBody['taxes'][number]) =>
    allLines(body).filter(line => line.taxes.some(one => sameTax(one, tax)))
  return body.taxes.map(tax => ({
    'cbc:TaxableAmount': amount(sumOf(taxed(tax), line => line.net)),
    'cbc:TaxAmount': amount(tax.amount),
    'cac:TaxCategory': taxOf(tax),
  }))
}
const taxOf = ({ called, percent }: { called: string; percent: string }): Xml => ({
  'cbc:ID': Number(percent) ? 'S' : 'Z',
  'cbc:Name': called,
  'cbc:Percent': percent,
  'cac:TaxScheme': { 'cbc:ID': called },
})

/** Without tax, with as many digits as it takes to come to the line again. */
const perPiece = ({ net, quantity }: InvoiceLine, currency: string) =>
  (net / quantity / 10 ** minorDigits(currency)).toFixed(minorDigits(currency) + 4)

type Address = InvoiceBody['seller']['address']
function addressOf({ lines = '', town, postcode, region, country }: Address): Xml {
  const [street = '', ...more] = lines
    .split('\n')
    .map(one => one.trim())
    .filter(Boolean)
  return {
    ...(street ? { 'cbc:StreetName': street } : {}),
    ...(more.length ? { 'cbc:AdditionalStreetName': more.join(', ') } : {}),
    ...(town ? { 'cbc:CityName': town } : {}),
    ...(postcode ? { 'cbc:PostalZone': postcode } : {}),
    ...(region ? { 'cbc:CountrySubentity': region } : {}),
    'cac:Country': { 'cbc:IdentificationCode': country },
  }
}

const numberOf = (id: string, scheme: string): Xml => ({
  'cbc:CompanyID': id,
  'cac:TaxScheme': { 'cbc:ID': scheme },
})

const sellerParty = ({ name, address, email, register, vatNumber, taxNumber }: InvoiceBody['seller']): Xml => ({
  'cac:PartyName': { 'cbc:Name': name },
  'cac:PostalAddress': addressOf(address),
  'cac:PartyTaxScheme': [
    ...(vatNumber ? [numberOf(vatNumber, 'VAT')] : []),
    ...(taxNumber ? [numberOf(taxNumber, 'TAX')] : []),
  ],
  'cac:PartyLegalEntity': { 'cbc:RegistrationName': name, ...(register ? { 'cbc:CompanyID': register } : {}) },
  'cac:Contact': { 'cbc:ElectronicMail': email },
})

const buyerParty = ({ name, address, email, vatNumber }: InvoiceBody['buyer']): Xml => ({
  'cac:PartyName': { 'cbc:Name': name },
  'cac:PostalAddress': addressOf(address),
  ...(vatNumber ? { 'cac:PartyTaxScheme': numberOf(vatNumber, 'VAT') } : {}),
  'cac:PartyLegalEntity': { 'cbc:RegistrationName': name },
  'cac:Contact': { 'cbc:ElectronicMail': email },
})
