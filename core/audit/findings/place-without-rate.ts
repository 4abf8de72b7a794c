import { finding } from './finding'

interface Facts {
  country: string
  /** How many orders went there. */ orders: number
}

/** A country that was sent to, or that can be chosen at the till, and has no rate of its own. */
export const placeWithoutRate = finding<Facts>(({ rules, tiers, sentTo = new Map() }) => {
  const { tax, deliveries = [] } = rules.rulebook
  if (!tax?.settings || tax.settings.place === 'origin') return []
  const own = new Set((tax.rates ?? []).map(({ place }) => place.country))
  const chosen = deliveries.filter(one => one.active !== false).flatMap(one => one.to ?? [])
  const countries = new Set([...sentTo.keys(), ...chosen.flatMap(({ country }) => country ?? [])])
  return [...countries]
    .filter(country => !own.has(country))
    .sort()
    .map(country => ({
      place: { kind: 'tax-settings' as const, key: 'site' },
      tier: tiers[0]?.id ?? '',
      facts: { country, orders: sentTo.get(country) ?? 0 },
    }))
})
