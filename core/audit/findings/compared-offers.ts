/** How offers fare against one another, tried on goods of every offer weave as every tier, at every quantity a step begins. */
import type { CompiledRules } from '../../gates/compiled'
import { CompiledDecider } from '../../gates/compiled-decider'
import { offersOf } from '../../shop/compiled-offers'
import type { PricedProduct } from '../../shop/priced-goods'
import { Pricer } from '../../shop/pricer'
import type { FindingAsk } from './finding'

/** Of each weave so many goods are tried: those that share their offers differ in their prices alone. */
const perWeave = 40

export interface OfferFate {
  /** A tier that gets it. */ tier: string
  applied: boolean
  /** All goods in its scope were tried. */ whole: boolean
}
interface Compared {
  fates: Map<string, OfferFate>
  /** By both ids: how often they were both to be had, and how often they came to the same. */
  pairs: Map<string, { both: number; same: number; tier: string }>
}
const known = new WeakMap<CompiledRules, { tiers: FindingAsk['tiers']; made: Compared }>()

export function comparedOffers({ rules, tiers, nowMs }: FindingAsk): Compared {
  const before = known.get(rules)
  if (before?.tiers === tiers) return before.made
  const made: Compared = { fates: new Map(), pairs: new Map() }
  const offers = offersOf(rules)
  const { sampled, cut } = samples(offers.goods.all, product => offers.weaveOf(product).number)
  const quantities = startsOf(rules)
  for (const { id, visitor } of tiers) {
    const pricer = new Pricer(new CompiledDecider(rules, visitor, nowMs))
    for (const product of sampled) {
      const whole = !cut.has(offers.weaveOf(product).number)
      for (const quantity of quantities) note(made, pricer.price(product.id, quantity)!.steps, { tier: id, whole })
    }
  }
  known.set(rules, { tiers, made })
  return made
}

function note(
  { fates, pairs }: Compared,
  steps: readonly { offer: string; outcome: string; amount?: number }[],
  { tier, whole }: { tier: string; whole: boolean },
): void {
  const had = steps.filter(
    ({ outcome, amount }) => (outcome === 'applied' || outcome === 'beaten') && amount !== undefined,
  )
  for (const { offer, outcome } of had) {
    const fate = fates.get(offer)
    if (!fate) fates.set(offer, { tier, applied: outcome === 'applied', whole })
    else {
      fate.applied ||= outcome === 'applied'
      fate.whole &&= whole
    }
  }
  for (let i = 0; i < had.length; i++)
    for (let j = i + 1; j < had.length; j++) {
      const key = `${had[i]!.offer}\n${had[j]!.offer}`
      const pair = pairs.get(key) ?? { both: 0, same: 0, tier }
      pair.both++
      if (had[i]!.amount === had[j]!.amount) pair.same++
      pairs.set(key, pair)
    }
}

function samples(all: readonly PricedProduct[], weaveOf: (product: PricedProduct) => number) {
  const counts = new Map<number, number>()
  const cut = new Set<number>()
  const sampled = all.filter(product => {
    const weave = weaveOf(product)
    const count = (counts.get(weave) ?? 0) + 1
    counts.set(weave, count)
    if (count > perWeave) cut.add(weave)
    return count <= perWeave
  })
  return { sampled, cut }
}

/** Where steps begin, and one. */
function startsOf({ rulebook }: CompiledRules): number[] {
  const starts = (rulebook.offers ?? []).flatMap(({ by = 'each', bands, bonus }) => [
    ...(by === 'each' || by === 'spend' ? [] : bands.map(({ from = 1 }) => from)),
    ...(bonus ? [bonus.buy + bonus.get] : []),
  ])
  return [...new Set([1, ...starts])].sort((a, b) => a - b).slice(0, 12)
}
