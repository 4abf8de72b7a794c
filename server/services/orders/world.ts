/** What orders need to know of the live site. */
import { moneyWords } from '../../../core/money'
import type { SellerSaid } from '../../../core/orders/seller'
import type { Address } from '../../../core/site/place'
import type { Snapshot } from '../live/snapshot'
import { saleWorld } from '../memberships/payments'
import type { SaleWorld } from '../memberships/memberships'
import type { Seller } from '../papers/invoices'

export interface OrderWorld extends SaleWorld {
  live: Snapshot
  seller: Seller
  money(minor: number): string
}

/** What is said of who sells; where they are is where prices are at home, until something else is said. */
export function sellerNow(
  { lines, town, postcode, country, register, vatNumber, taxNumber }: SellerSaid,
  origin: Address = { country: '' },
): Pick<Seller, 'address' | 'register' | 'vatNumber' | 'taxNumber'> {
  return {
    address: {
      ...(country && country !== origin.country ? { country } : origin),
      ...(postcode ? { postcode } : {}),
      ...(lines ? { lines } : {}),
      ...(town ? { town } : {}),
    },
    ...(register ? { register } : {}),
    ...(vatNumber ? { vatNumber } : {}),
    ...(taxNumber ? { taxNumber } : {}),
  }
}

export function orderWorld(live: Snapshot): OrderWorld {
  const { site } = live.rules.index
  const { currency = 'EUR', locale, name = '' } = site
  return {
    ...saleWorld(live),
    live,
    seller: {
      ...sellerNow(live.settings.seller, live.rules.rulebook.tax?.settings?.origin),
      name: live.settings.seller.name || live.settings.mail.senderName || name,
      email: live.settings.mail.senderAddress,
      timezone: site.timezone,
    },
    money: minor => moneyWords(minor, currency, locale),
  }
}
