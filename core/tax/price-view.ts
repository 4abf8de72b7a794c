/** How a price is looked at: as it was typed, as whoever it is for reads it, or with tax or without it whoever looks. */
import type { PricedProduct } from '../shop/priced-goods'
import type { Taxer } from './taxer'
import type { Showing } from './tax-settings'

export type PriceView = 'typed' | 'own' | Showing

/** An amount as typed, minor units, in a view; `showing` is how that reads, null as it was typed. */
export function viewed(
  taxer: Taxer,
  { product, amount }: { product: PricedProduct; amount: number },
  view: PriceView,
): { amount: number; showing: Showing | null } {
  if (view === 'typed') return { amount, showing: null }
  const showing = view === 'own' ? taxer.showing.list : view
  return { amount: taxer.both(product, amount)[showing], showing }
}
