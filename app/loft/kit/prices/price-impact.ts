import type { PriceImpact } from '~~/core/audit/prices-board'
import type { TaxImpact } from '~~/core/audit/tax-impact'
import { useLoft } from '~/loft/core/loft'
import { useChangeImpact } from './change-impact'
import type { ChosenChanges } from './change-impact'
import { useCosts } from './costs'
import { askImpact } from './questions'

/** Kinds of change that can make somebody another buyer, or goods others. */
const buying = ['product', 'category', 'level', 'role', 'permission', 'fact', 'audience']
const pricing: ReadonlySet<string> = new Set([...buying, 'offer', 'gate'])
const taxing: ReadonlySet<string> = new Set([...buying, 'tax', 'rate', 'exception', 'goods', 'shown', 'tax-settings'])

/** What the draft does to prices, or chosen changes of it. */
export function usePriceImpact(chosen: ChosenChanges, isAsked: () => boolean = () => true) {
  const loft = useLoft()
  const { costs, loadCosts } = useCosts()
  const impact = useChangeImpact<PriceImpact>(chosen, {
    kinds: pricing,
    mayLook: () => isAsked() && loft.may('prices', 'look') && loft.may('offers', 'look'),
    ask: changes => askImpact('prices', { changes, quantity: 1, costs: Object.fromEntries(costs.value) }),
    asks: () => [isAsked(), costs.value],
  })
  return { impact, loadCosts }
}

/** What it does to taxes, and to how prices show. */
export function useTaxImpact(chosen: ChosenChanges, isAsked: () => boolean = () => true) {
  const loft = useLoft()
  return useChangeImpact<TaxImpact>(chosen, {
    kinds: taxing,
    mayLook: () => isAsked() && loft.may('tax', 'look'),
    ask: changes => askImpact('taxes', { changes }),
    asks: isAsked,
  })
}
