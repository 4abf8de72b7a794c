/** Offers and price trails in English, for screens and the shell. Amounts are said by whoever knows the currency. */
import type { Off, Offer } from '../rulebook/shop-rules'
import type { Outcome, PriceTrail, TrailStep } from './price-trail'
import type { Sale } from './prices-of'

/** An amount in minor units, as it is read. */
export type Money = (minor: number) => string

const outcomeWords: Record<Outcome, string> = {
  inactive: 'switched off',
  notForVisitor: 'not for this visitor',
  codeMissing: 'needs a code',
  notOnSaleItems: 'not on goods that are on sale',
  bandNotReached: 'not enough yet',
  beaten: 'something else is lower',
  applied: 'applied',
}

/** A reduction as it is read: “15 % off”, “5.00 off”, “at 4.67”. */
function offWords(off: Off, money: Money): string {
  if ('percent' in off) return `${Number(off.percent)} % off`
  return 'amount' in off ? `${money(off.amount)} off` : `at ${money(off.price)}`
}

/** Where a band begins and ends: “from 10”, “1 to 9”; of a discount on the basket in money. */
function bandWords({ from = 1, to }: Offer['bands'][number], by: Offer['by'], money: Money): string {
  const said = (amount: number) => (by === 'spend' ? money(amount) : String(amount))
  return to === undefined ? `from ${said(from)}` : from === to ? said(from) : `${said(from)} to ${said(to)}`
}

/** When a sale runs: “until 2026-11-30”; empty where it has no days. */
function saleDays({ from, until }: Sale, day: (date: string) => string = date => date): string {
  if (from && until) return `${day(from)} to ${day(until)}`
  return from ? `from ${day(from)}` : until ? `until ${day(until)}` : ''
}

export interface TrailLine {
  name: string
  /** Why it stands there. */ words: string
  /** Minor units; none where nothing was worked out. */ amount?: number
  /** It made the price. */ made: boolean
  /** The offer it is of. */ offer?: string
}

/** A trail as lines to be read from the top: the price, the sale, each offer, and at last what is paid for one piece. */
export function trailLines(
  trail: PriceTrail,
  { offers, money, day }: { offers: readonly Offer[]; money: Money; day?: (date: string) => string },
): TrailLine[] {
  const { sale } = trail
  const byId = new Map(offers.map(offer => [offer.id, offer]))
  return [
    { name: 'Price', words: '', amount: trail.regular, made: trail.offers.length === 0 && !sale?.runs },
    ...(sale
      ? [
          {
            name: 'Sale',
            words: [sale.runs ? '' : 'not now', saleDays(sale, day)].filter(Boolean).join(', '),
            amount: sale.price,
            made: trail.offers.length === 0 && sale.runs,
          },
        ]
      : []),
    ...trail.steps.map((step): TrailLine => {
      const offer = byId.get(step.offer)
      return {
        name: offer?.name ?? step.offer,
        words: stepWords(step, offer, money),
        ...(step.unit === undefined ? {} : { amount: step.unit }),
        made: step.outcome === 'applied',
        offer: step.offer,
      }
    }),
  ]
}

function stepWords({ outcome, band }: TrailStep, offer: Offer | undefined, money: Money): string {
  const at = offer?.bands[band ?? -1]
  const counted = offer?.by && offer.by !== 'each' && at ? bandWords(at, offer.by, money) : ''
  const reduction = at ? offWords(at.off, money) : ''
  const parts = outcome === 'applied' ? [counted, reduction] : [outcomeWords[outcome], counted, reduction]
  return parts.filter(Boolean).join(', ')
}
