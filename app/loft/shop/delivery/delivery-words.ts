/** What a cell of the board of deliveries says: in a word, and in full. */
import type { DeliveryCell, TierDeliveries } from '~~/core/audit/delivery-board'
import { placeName } from '~~/core/sentences/place-name'
import type { Delivery } from '~~/core/rulebook/shop-rules'
import type { DeliveryOutcome } from '~~/core/shop/delivery'

interface Words {
  money(minor: number): string
  /** Somebody, as a sentence names them. */ who(condition: NonNullable<Delivery['for']>): string
}

export const kilos = (grams: number) => `${(grams / 1000).toLocaleString('en', { maximumFractionDigits: 3 })} kg`

const short: Record<Exclude<DeliveryOutcome, 'offered'>, string> = {
  off: 'switched off',
  nothingSent: 'nothing to send',
  elsewhere: 'not there',
  forOthers: 'not for them',
  tooHeavy: 'too heavy',
}

export function cellWords(
  { outcome, upTo, freed }: DeliveryCell,
  way: Delivery,
  { money }: Pick<Words, 'money'>,
): string {
  if (outcome !== 'offered') return short[outcome]
  if (freed) return `free from ${money(way.freeFrom!)}`
  if ('flat' in way.cost) return ''
  return upTo === undefined ? 'heavier' : `up to ${kilos(upTo)}`
}

/** Where the rule says so, and what it would take for it to be otherwise. */
export function cellReasons(
  { parcel, cells, showing }: TierDeliveries,
  at: number,
  way: Delivery,
  { tier, to, money, who }: Words & { tier: string; to: string },
): string[] {
  const { outcome, cost, shows, freed, upTo } = cells[at]!
  const most = 'flat' in way.cost ? undefined : Math.max(...way.cost.byWeight.map(one => one.upTo ?? Infinity))
  const reasons: Record<Exclude<DeliveryOutcome, 'offered'>, () => string> = {
    off: () => 'It is switched off.',
    nothingSent: () => `Nothing of this basket is sent to ${tier}.`,
    elsewhere: () => `It goes to ${(way.to ?? []).map(placeName).join('; ')}, not to ${to}.`,
    forOthers: () => `It is for ${who(way.for!)}; ${tier} is not.`,
    tooHeavy: () => `The parcel weighs ${kilos(parcel.weight)}; it carries up to ${kilos(most!)}.`,
  }
  if (outcome !== 'offered') return [reasons[outcome]()]
  const { freeFrom } = way
  const left = freeFrom === undefined ? 0 : freeFrom - parcel.worth
  return [
    `The parcel weighs ${kilos(parcel.weight)} and comes to ${money(parcel.worth)} as prices are typed, after discounts.`,
    freed
      ? `From ${money(freeFrom!)} on it costs nothing.`
      : 'flat' in way.cost
        ? `It always costs ${money(cost!)} without tax.`
        : `${upTo === undefined ? 'Heavier than all steps' : `Up to ${kilos(upTo)}`} it costs ${money(cost!)} without tax.`,
    ...(left > 0 ? [`${money(left)} more and it would cost nothing.`] : []),
    ...(showing
      ? [`Their receipt shows it ${showing === 'withTax' ? 'with tax' : 'without tax'}: ${money(shows!)}.`]
      : []),
  ]
}
