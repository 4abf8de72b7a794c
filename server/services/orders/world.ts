/** What orders need to know of the live site. */
import { moneyWords } from '../../../core/money'
import type { Snapshot } from '../live/snapshot'
import { saleWorld } from '../memberships/payments'
import type { SaleWorld } from '../memberships/memberships'
import type { Seller } from '../papers/invoices'

export interface OrderWorld extends SaleWorld {
  live: Snapshot
  seller: Seller
  money(minor: number): string
}

export function orderWorld(live: Snapshot): OrderWorld {
  const { site } = live.rules.index
  const { currency = 'EUR', locale, name = '' } = site
  return {
    ...saleWorld(live),
    live,
    seller: {
      name: live.settings.mail.senderName || name,
      email: live.settings.mail.senderAddress,
      address: live.rules.rulebook.tax?.settings?.origin ?? { country: '' },
      timezone: site.timezone,
    },
    money: minor => moneyWords(minor, currency, locale),
  }
}
