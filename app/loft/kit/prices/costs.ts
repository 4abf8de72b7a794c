import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'

/** What products cost the shop, for whoever may know it; empty for everybody else. Counted by the day, so read on its own. */
export function useCosts() {
  const loft = useLoft()
  const costs = shallowRef<ReadonlyMap<string, number>>(new Map())
  async function loadCosts() {
    if (!loft.may('cost', 'look')) return
    const found = await loftApi('GET costs').catch(() => null)
    if (found) costs.value = new Map(Object.entries(found))
  }
  return { costs, loadCosts }
}
