import { placesOf, taxBoard } from '../tax-board'
import { finding } from './finding'

interface Facts {
  country: string
  /** In percent of the price without tax, as decimals. */ goods: string
  delivery: string
}

/** Delivery that is taxed otherwise than goods of its own category, for some tier: each place once. */
export const deliveryTaxedOtherwise = finding<Facts>(({ rules, tiers, nowMs }) => {
  const { settings, rates = [] } = rules.rulebook.tax ?? {}
  if (!settings) return []
  const board = taxBoard(
    rules,
    tiers.map(tier => ({ name: tier.id, ...tier })),
    { nowMs },
  )
  const category = board.categories.indexOf(settings.deliveryCategory ?? 'standard')
  if (category < 0) return []
  return placesOf(rates).flatMap((place, p) => {
    const width = tiers.length
    const t = tiers.findIndex(
      (_, at) =>
        !board.goods[(p * board.categories.length + category) * width + at]!.factor.equals(
          board.delivery[p * width + at]!.factor,
        ),
    )
    if (t < 0) return []
    const goods = board.goods[(p * board.categories.length + category) * width + t]!
    const delivery = board.delivery[p * width + t]!
    const by = [...delivery.leftOut, ...delivery.applied].find(one => one.exception)?.exception
    const rate = [...delivery.leftOut, ...goods.applied][0]?.rate
    const at = by ? { kind: 'exception' as const, key: by } : { kind: 'rate' as const, key: rate ?? '' }
    const said = ({ applied }: typeof goods) => applied.map(one => one.contribution).join(' + ') || '0'
    return [
      {
        place: at,
        tier: tiers[t]!.id,
        facts: { country: place.region ?? place.country ?? '', goods: said(goods), delivery: said(delivery) },
      },
    ]
  })
})
