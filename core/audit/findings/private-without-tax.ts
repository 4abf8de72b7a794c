import { CompiledDecider } from '../../gates/compiled-decider'
import { Taxer } from '../../tax/taxer'
import { finding } from './finding'

interface Facts {
  where: ('list' | 'basket' | 'pay')[]
}

/** Somebody private at home who reads prices without tax, which is not what they pay. Tiers with a visitor role may be of the trade. */
export const privateWithoutTax = finding<Facts>(({ rules, tiers, nowMs }) => {
  const { settings, shown = [] } = rules.rulebook.tax ?? {}
  if (!settings) return []
  return tiers
    .filter(({ visitor }) => !visitor.roles?.length && !visitor.firm)
    .flatMap(({ id, visitor }) => {
      const home = { ...visitor, request: { ...visitor.request, country: settings.origin.country } }
      const decider = new CompiledDecider(rules, home, nowMs)
      const taxer = new Taxer(decider)
      const where = (['list', 'basket', 'pay'] as const).filter(spot => taxer.showing[spot] === 'withoutTax')
      // Where nothing is taxed at home, both are the same.
      const isTaxed = taxer.tax.rates.some(
        ({ rate }) => taxer.ratesAt(rate.category, settings.origin).applied.length > 0,
      )
      if (!where.length || !isTaxed) return []
      const entry = shown.find(
        one => one.active !== false && where.some(spot => one[spot] === 'withoutTax') && decider.admits(one.for),
      )
      const place = entry ? { kind: 'shown' as const, key: entry.id } : { kind: 'tax-settings' as const, key: 'site' }
      return [{ place, tier: id, facts: { where } }]
    })
    .filter((one, i, all) => all.findIndex(other => other.place.key === one.place.key) === i)
})
