import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'

/** What products cost the shop, for whoever may know it; empty for everybody else. Counted by the day, so read on its own. */
export function useCosts() {
  const loft = useLoft()
  const costs = shallowRef<ReadonlyMap<string, number>>(new Map())
  async function loadCosts() {
    if (!loft.may('cost', 'look')) return
    await reading(
      'what goods cost',
      () => loftApi('GET costs'),
      found => (costs.value = new Map(Object.entries(found))),
    )
  }
  return { costs, loadCosts }
}
