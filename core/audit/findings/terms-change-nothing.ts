import { canonical } from '../../canonical'
import { taxOf } from '../../tax/compiled-tax'
import { goodsOf } from '../../shop/priced-goods'
import { finding } from './finding'
import type { FindingAsk, Found } from './finding'

interface Facts {
  /** Earlier terms for the same people that say it all already. */ by?: string
}
type Place = Found<Facts>['place']

/** Other terms that say what is so anyway, or that earlier ones for the same people leave nothing to say. */
export const termsChangeNothing = finding<Facts>(ask => [...idleExceptions(ask), ...idleGoods(ask), ...idleShown(ask)])

const at = (ask: FindingAsk, kind: 'exception' | 'goods' | 'shown', key: string, by?: string): Found<Facts> => ({
  place: { kind, key } as Place,
  tier: ask.tiers[0]?.id ?? '',
  facts: by === undefined ? {} : { by },
})
const isActive = ({ active }: { active?: boolean | undefined }) => active !== false

function idleExceptions(ask: FindingAsk): Found<Facts>[] {
  const { exceptions = [], rates = [], taxes = [] } = ask.rules.rulebook.tax ?? {}
  const live = exceptions.filter(isActive)
  return live.flatMap((one, i) => {
    const earlier = live
      .slice(0, i)
      .find(other => other.rate === one.rate && canonical(other.for) === canonical(one.for))
    if (earlier) return [at(ask, 'exception', one.id, earlier.id)]
    const rate = rates.find(({ id }) => id === one.rate)
    const tax = taxes.find(({ id }) => id === rate?.tax)
    if (!rate || one.none) return []
    const says =
      (one.percent !== undefined && Number(one.percent) !== Number(rate.percent)) ||
      (one.called !== undefined && one.called !== (tax?.name ?? tax?.id)) ||
      (one.delivery !== undefined && one.delivery !== (rate.delivery ?? 'taxed')) ||
      (one.onTopOf !== undefined && canonical([...one.onTopOf].sort()) !== canonical([...(tax?.onTopOf ?? [])].sort()))
    return says ? [] : [at(ask, 'exception', one.id)]
  })
}

const parts = ['goodsTaxed', 'deliveryTaxed', 'category'] as const
/** Nothing it says is another than what the goods in its scope say themselves. */
function idleGoods(ask: FindingAsk): Found<Facts>[] {
  const tax = taxOf(ask.rules)
  const all = goodsOf(ask.rules.index).all
  return tax.goods.flatMap(({ entry, covers }, i) => {
    const says = parts.filter(part => entry[part] !== undefined)
    const earlier = tax.goods
      .slice(0, i)
      .find(
        other =>
          canonical([other.entry.for, other.entry.on]) === canonical([entry.for, entry.on]) &&
          says.every(part => other.entry[part] !== undefined),
      )
    if (earlier) return [at(ask, 'goods', entry.id, earlier.entry.id)]
    const moves = all.some(product => covers(product) && says.some(part => tax.ownOf(product.id)[part] !== entry[part]))
    return moves ? [] : [at(ask, 'goods', entry.id)]
  })
}

const shownParts = ['list', 'basket', 'pay', 'taxLines', 'note'] as const
function idleShown(ask: FindingAsk): Found<Facts>[] {
  const { settings, shown } = taxOf(ask.rules)
  return shown.flatMap((one, i) => {
    const says = shownParts.filter(part => one[part] !== undefined)
    const earlier = shown
      .slice(0, i)
      .find(other => canonical(other.for) === canonical(one.for) && says.every(part => other[part] !== undefined))
    if (earlier) return [at(ask, 'shown', one.id, earlier.id)]
    // What earlier ones say for some may be put back by a later one, so only one that says nothing new to anybody is idle.
    const moves = says.some(
      part => one[part] !== settings?.shown[part] || shown.slice(0, i).some(other => other[part] !== undefined),
    )
    return moves ? [] : [at(ask, 'shown', one.id)]
  })
}
