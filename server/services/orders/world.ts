/** What orders need to know of the live site. */
import { moneyWords } from '../../../core/money'
import type { Snapshot } from '../editions/snapshot'
import { saleWorld } from '../memberships/payments'
import type { OrderWorld } from './settle'

export function orderWorld(live: Snapshot): OrderWorld {
  const { site } = live.rules.index
  const { currency = 'EUR', locale, name = '' } = site
  return {
    ...saleWorld(live),
    seller: {
      name: live.settings.mail.senderName || name,
      email: live.settings.mail.senderAddress,
      address: live.rules.rulebook.tax?.settings?.origin ?? { country: '' },
      timezone: site.timezone,
    },
    money: minor => moneyWords(minor, currency, locale),
  }
}
