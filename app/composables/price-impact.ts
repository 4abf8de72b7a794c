import type { PriceImpact } from '~~/core/audit/prices-board'
import type { Version } from '~~/core/editions/contents'

/** Kinds of change that can move a price, or whom it is told. */
const pricing: ReadonlySet<string> = new Set([
  'offer',
  'product',
  'category',
  'gate',
  'level',
  'role',
  'permission',
  'fact',
  'audience',
])

/**
 * What the draft does to prices, or chosen changes of it; null where none of them could, or whoever looks may not know
 * prices. `chosen`: null for all of the draft.
 */
export function usePriceImpact(
  chosen: () => readonly (Pick<Version, 'kind' | 'key'> & { after: unknown; position: number })[] | null,
  isAsked: () => boolean = () => true,
) {
  const loft = useLoft()
  const { costs, loadCosts } = useCosts()
  const impact = shallowRef<PriceImpact | null>(null)
  watch(
    [() => loft.told, chosen, isAsked, costs],
    async () => {
      const list = chosen()
      const moves = (list ?? loft.changes).some(({ kind }) => pricing.has(kind))
      const mayLook = loft.may('prices', 'look') && loft.may('offers', 'look')
      if (!moves || !mayLook || !loft.board || !isAsked()) return void (impact.value = null)
      // What is seen is asked for first.
      await nextTick()
      const changes = list?.map(({ kind, key, after, position }) => ({ kind, key, body: after, position })) ?? null
      impact.value = await askCore({
        kind: 'priceImpact',
        changes,
        quantity: 1,
        costs: Object.fromEntries(costs.value),
      })
    },
    { immediate: true },
  )
  return { impact, loadCosts }
}

/** One, or many: “1 price”, “3 prices”. */
export const counted = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en')} ${n === 1 ? one : many}`
