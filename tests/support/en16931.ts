/**
 * The business rules of EN 16931-1:2017 that an invoice of this application can break, as its annexes number them, read
 * from the UBL it is written in. Amounts may differ by rounding as the rules themselves allow.
 */
import { convert } from 'xmlbuilder2'

type Node = string | { [name: string]: Node | Node[] }
/** All nodes at a path below a node. */
function at(node: Node | undefined, path: string): Node[] {
  return path.split('/').reduce<Node[]>(
    (nodes, name) =>
      nodes.flatMap(one => {
        if (typeof one === 'string') return []
        const found = one[name]
        return found === undefined ? [] : [found].flat()
      }),
    node === undefined ? [] : [node],
  )
}
const text = (node: Node | undefined, path: string): string => {
  const [found] = at(node, path)
  return typeof found === 'string' ? found : found === undefined ? '' : String((found as { '#'?: string })['#'] ?? '')
}
const number = (node: Node | undefined, path: string) => Number(text(node, path) || '0')
const cents = (amount: number) => Math.round(amount * 100)

interface Read {
  root: Node
  lines: Node[]
  charges: Node[]
  subtotals: Node[]
  totals: Node
  seller: Node
  buyer: Node
}
const categoryIn = (node: Node, at: string) => `${text(node, `${at}/cbc:ID`)} ${text(node, `${at}/cbc:Percent`)}`
const lineCategory = 'cac:Item/cac:ClassifiedTaxCategory'
const hasVat = (party: Node) =>
  at(party, 'cac:PartyTaxScheme').some(one => text(one, 'cac:TaxScheme/cbc:ID') === 'VAT' && text(one, 'cbc:CompanyID'))
const hasTax = (party: Node) => at(party, 'cac:PartyTaxScheme/cbc:CompanyID').length > 0
const uses = ({ subtotals }: Read, id: string) => subtotals.some(one => text(one, 'cac:TaxCategory/cbc:ID') === id)
const every = (nodes: readonly Node[], path: string) => nodes.every(one => text(one, path) !== '')
const subtotalOf = (read: Read, id: string) => read.subtotals.filter(one => text(one, 'cac:TaxCategory/cbc:ID') === id)
const untaxed = ['Z', 'E', 'AE', 'G', 'O']
const withReason = ['E', 'AE', 'G', 'O']

/** Each says whether it holds. */
const rules: Record<string, (read: Read) => boolean> = {
  'BR-01': ({ root }) => text(root, 'cbc:CustomizationID') === 'urn:cen.eu:en16931:2017',
  'BR-02': ({ root }) => text(root, 'cbc:ID') !== '',
  'BR-03': ({ root }) => /^\d{4}-\d{2}-\d{2}$/.test(text(root, 'cbc:IssueDate')),
  'BR-04': ({ root }) =>
    ['380', '381'].includes(text(root, 'cbc:InvoiceTypeCode') || text(root, 'cbc:CreditNoteTypeCode')),
  'BR-05': ({ root }) => /^[A-Z]{3}$/.test(text(root, 'cbc:DocumentCurrencyCode')),
  'BR-06': ({ seller }) => text(seller, 'cac:PartyLegalEntity/cbc:RegistrationName') !== '',
  'BR-07': ({ buyer }) => text(buyer, 'cac:PartyLegalEntity/cbc:RegistrationName') !== '',
  'BR-08': ({ seller }) => at(seller, 'cac:PostalAddress').length === 1,
  'BR-09': ({ seller }) => /^[A-Z]{2}$/.test(text(seller, 'cac:PostalAddress/cac:Country/cbc:IdentificationCode')),
  'BR-10': ({ buyer }) => at(buyer, 'cac:PostalAddress').length === 1,
  'BR-11': ({ buyer }) => /^[A-Z]{2}$/.test(text(buyer, 'cac:PostalAddress/cac:Country/cbc:IdentificationCode')),
  'BR-12': ({ totals }) => text(totals, 'cbc:LineExtensionAmount') !== '',
  'BR-13': ({ totals }) => text(totals, 'cbc:TaxExclusiveAmount') !== '',
  'BR-14': ({ totals }) => text(totals, 'cbc:TaxInclusiveAmount') !== '',
  'BR-15': ({ totals }) => text(totals, 'cbc:PayableAmount') !== '',
  'BR-16': ({ lines }) => lines.length > 0,
  'BR-21': ({ lines }) => every(lines, 'cbc:ID'),
  'BR-22': ({ lines }) => lines.every(one => text(one, 'cbc:InvoicedQuantity') || text(one, 'cbc:CreditedQuantity')),
  'BR-23': ({ lines }) =>
    lines.every(one =>
      [...at(one, 'cbc:InvoicedQuantity'), ...at(one, 'cbc:CreditedQuantity')].every(
        quantity => (quantity as { '@unitCode': string })['@unitCode'] !== '',
      ),
    ),
  'BR-24': ({ lines }) => every(lines, 'cbc:LineExtensionAmount'),
  'BR-25': ({ lines }) => every(lines, 'cac:Item/cbc:Name'),
  'BR-26': ({ lines }) => every(lines, 'cac:Price/cbc:PriceAmount'),
  'BR-27': ({ lines }) => lines.every(one => number(one, 'cac:Price/cbc:PriceAmount') >= 0),
  'BR-36': ({ charges }) => every(charges, 'cbc:Amount'),
  'BR-37': ({ charges }) => every(charges, 'cac:TaxCategory/cbc:ID'),
  'BR-38': ({ charges }) => every(charges, 'cbc:AllowanceChargeReason'),
  'BR-45': ({ subtotals }) => every(subtotals, 'cbc:TaxableAmount'),
  'BR-46': ({ subtotals }) => every(subtotals, 'cbc:TaxAmount'),
  'BR-47': ({ subtotals }) => every(subtotals, 'cac:TaxCategory/cbc:ID'),
  'BR-48': ({ subtotals }) =>
    subtotals.every(
      one => text(one, 'cac:TaxCategory/cbc:ID') === 'O' || text(one, 'cac:TaxCategory/cbc:Percent') !== '',
    ),
  'BR-55': ({ root }) =>
    text(root, 'cbc:CreditNoteTypeCode') === '' ||
    text(root, 'cac:BillingReference/cac:InvoiceDocumentReference/cbc:ID') !== '',
  'BR-57': ({ root }) =>
    at(root, 'cac:Delivery/cac:DeliveryLocation/cac:Address').every(one =>
      text(one, 'cac:Country/cbc:IdentificationCode'),
    ),
  'BR-CO-04': ({ lines }) =>
    lines.every(one => at(one, lineCategory).length === 1 && text(one, `${lineCategory}/cbc:ID`)),
  'BR-CO-09': ({ seller, buyer }) =>
    [seller, buyer].every(party =>
      at(party, 'cac:PartyTaxScheme')
        .filter(one => text(one, 'cac:TaxScheme/cbc:ID') === 'VAT')
        .every(one => /^[A-Z]{2}/.test(text(one, 'cbc:CompanyID'))),
    ),
  'BR-CO-10': ({ lines, totals }) =>
    cents(number(totals, 'cbc:LineExtensionAmount')) ===
    lines.reduce((sum, one) => sum + cents(number(one, 'cbc:LineExtensionAmount')), 0),
  'BR-CO-12': ({ charges, totals }) =>
    cents(number(totals, 'cbc:ChargeTotalAmount')) ===
    charges.reduce((sum, one) => sum + cents(number(one, 'cbc:Amount')), 0),
  'BR-CO-13': ({ totals }) =>
    cents(number(totals, 'cbc:TaxExclusiveAmount')) ===
    cents(number(totals, 'cbc:LineExtensionAmount')) + cents(number(totals, 'cbc:ChargeTotalAmount')),
  'BR-CO-14': ({ root, subtotals }) =>
    cents(number(root, 'cac:TaxTotal/cbc:TaxAmount')) ===
    subtotals.reduce((sum, one) => sum + cents(number(one, 'cbc:TaxAmount')), 0),
  'BR-CO-15': ({ root, totals }) =>
    cents(number(totals, 'cbc:TaxInclusiveAmount')) ===
    cents(number(totals, 'cbc:TaxExclusiveAmount')) + cents(number(root, 'cac:TaxTotal/cbc:TaxAmount')),
  'BR-CO-16': ({ totals }) =>
    cents(number(totals, 'cbc:PayableAmount')) ===
    cents(number(totals, 'cbc:TaxInclusiveAmount')) - cents(number(totals, 'cbc:PrepaidAmount')),
  // As the standard's own schematron has it: within one unit of the currency.
  'BR-CO-17': ({ subtotals }) =>
    subtotals.every(
      one =>
        Math.abs(
          number(one, 'cbc:TaxAmount') -
            (number(one, 'cbc:TaxableAmount') * number(one, 'cac:TaxCategory/cbc:Percent')) / 100,
        ) < 1,
    ),
  'BR-CO-18': ({ subtotals }) => subtotals.length > 0,
  'BR-CO-25': ({ root, totals }) => number(totals, 'cbc:PayableAmount') <= 0 || text(root, 'cbc:DueDate') !== '',
  'BR-CO-26': ({ seller }) => hasVat(seller) || text(seller, 'cac:PartyLegalEntity/cbc:CompanyID') !== '',
  'BR-S-02': read => !uses(read, 'S') || hasTax(read.seller),
  'BR-S-05': ({ lines }) =>
    lines.every(one => text(one, `${lineCategory}/cbc:ID`) !== 'S' || number(one, `${lineCategory}/cbc:Percent`) > 0),
  'BR-S-10': read => subtotalOf(read, 'S').every(one => !text(one, 'cac:TaxCategory/cbc:TaxExemptionReason')),
  'BR-Z-10': read => subtotalOf(read, 'Z').every(one => !text(one, 'cac:TaxCategory/cbc:TaxExemptionReason')),
  'BR-E-02': read => !uses(read, 'E') || hasTax(read.seller),
  'BR-AE-02': read => !uses(read, 'AE') || (hasTax(read.seller) && hasVat(read.buyer)),
  'BR-G-02': read => !uses(read, 'G') || hasVat(read.seller),
  'BR-O-02': read => !uses(read, 'O') || (!hasVat(read.seller) && !hasVat(read.buyer)),
  'BR-O-11': read => !uses(read, 'O') || read.subtotals.length === 1,
  ...Object.fromEntries(
    untaxed.flatMap(id => [
      [
        `BR-${id}-05`,
        ({ lines }: Read) =>
          lines.every(
            one => text(one, `${lineCategory}/cbc:ID`) !== id || number(one, `${lineCategory}/cbc:Percent`) === 0,
          ),
      ],
      [`BR-${id}-09`, (read: Read) => subtotalOf(read, id).every(one => number(one, 'cbc:TaxAmount') === 0)],
    ]),
  ),
  ...Object.fromEntries(
    withReason.map(id => [
      `BR-${id}-10`,
      (read: Read) => subtotalOf(read, id).every(one => text(one, 'cac:TaxCategory/cbc:TaxExemptionReason') !== ''),
    ]),
  ),
  // BR-S-01, BR-S-08 and the same of the others: every category of a line has one subtotal, of what its lines and charges come to.
  'BR-*-01 and 08': ({ lines, charges, subtotals }) => {
    const sums = new Map<string, number>()
    const add = (key: string, amount: number) => sums.set(key, (sums.get(key) ?? 0) + cents(amount))
    for (const line of lines) add(categoryIn(line, lineCategory), number(line, 'cbc:LineExtensionAmount'))
    for (const charge of charges) add(categoryIn(charge, 'cac:TaxCategory'), number(charge, 'cbc:Amount'))
    const told = new Map(
      subtotals.map(one => [categoryIn(one, 'cac:TaxCategory'), cents(number(one, 'cbc:TaxableAmount'))]),
    )
    return (
      told.size === subtotals.length &&
      sums.size === told.size &&
      [...sums].every(([key, sum]) => told.get(key) === sum)
    )
  },
  'BR-DEC': ({ root }) =>
    !/Amount"?[^{}]*"#":"-?\d+\.\d{3,}/.test(
      JSON.stringify({ ...(root as object), lines: undefined }).replaceAll(/"cac:Price":\{[^}]*\}\}/g, ''),
    ),
}

/** The rules an invoice breaks, by their numbers. */
export function brokenRules(xml: string): string[] {
  const document = convert(xml, { format: 'object' }) as unknown as { [name: string]: Node }
  const root = document.Invoice ?? document.CreditNote!
  const read: Read = {
    root,
    lines: [...at(root, 'cac:InvoiceLine'), ...at(root, 'cac:CreditNoteLine')],
    charges: at(root, 'cac:AllowanceCharge'),
    subtotals: at(root, 'cac:TaxTotal/cac:TaxSubtotal'),
    totals: at(root, 'cac:LegalMonetaryTotal')[0]!,
    seller: at(root, 'cac:AccountingSupplierParty/cac:Party')[0]!,
    buyer: at(root, 'cac:AccountingCustomerParty/cac:Party')[0]!,
  }
  return Object.entries(rules).flatMap(([id, holds]) => (holds(read) ? [] : [id]))
}
