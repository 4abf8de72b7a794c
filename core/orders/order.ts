/** An order as it is kept: what was bought by whom, with every figure and how it came about. Money in minor units. */
import type { Address } from '../site/place'
import type { Reduction, Reductions } from './reductions'
import type { CategoryOfLine } from './vat-category'
import type { ReceiptTax } from '../tax/receipt'
import type { Shown } from '../tax/tax-settings'
import type { TaxedBasket } from '../tax/tax-trail'

/** Where something is sent, as it is written on a parcel. */
export interface PostalAddress extends Address {
  /** Street and house, one or two lines. */ lines: string
  town: string
}

export interface FrozenOrder {
  edition: number
  currency: string
  /** What products were called. */ titles: Record<string, string>
  basket: TaxedBasket
  shown: Shown
  address: PostalAddress
  /** Why it cost less than its prices, by line and as a whole; not said of orders of before this was kept. */
  reductions?: Reductions
  /** Null where nothing is sent. */ delivery: { id: string; name: string } | null
  /** Codes that were used, as everybody types them. */ codes: string[]
  /** As they were typed, for using them once more where it is paid after all; told to nobody. */
  typed?: { offer: string; word: string; code: string }[]
  note: string
  gift: string | null
  /** What buyers of their kind are called: levels and visitor roles held. */ buyer: {
    levels: string[]
    roles: string[]
    /** The VAT number they gave. */ vatNumber?: string
  }
}

export interface InvoiceLine {
  title: string
  quantity: number
  net: number
  gross: number
  taxes: { rate: string; called: string; percent: string; amount: number }[]
  /** Of value added tax; left out where more than one tax stands on it, and of invoices of before. */
  vat?: CategoryOfLine
  /** Why it cost less than its price. */ off?: Reduction[]
}

/** What stands on an invoice or a credit note, whatever becomes of rules and names afterwards. */
export interface InvoiceBody {
  seller: {
    name: string
    address: Address & Partial<Pick<PostalAddress, 'lines' | 'town'>>
    email: string
    /** The register they stand in, and their number there. */ register?: string
    vatNumber?: string
    taxNumber?: string
  }
  buyer: { name: string; email: string; address: PostalAddress; vatNumber?: string }
  orderNumber: number
  /** On a credit note: of the invoice. */ of?: string
  currency: string
  lines: InvoiceLine[]
  delivery: InvoiceLine | null
  taxes: Required<ReceiptTax>[]
  /** Taken off the basket as a whole, within what lines come to. */ off?: Reduction
  net: number
  tax: number
  gross: number
  shown: Shown
}
