import { finding } from './finding'

interface Facts {
  country: string
  /** How many orders went there. */ orders: number
  /** Regions of it, or some postcodes, have rates. */ partly?: true
}

/** A country that was sent to, or that can be chosen at the till, and has no rate of its own; or rates for parts of it alone, where no rate is for anywhere. */
export const placeWithoutRate = finding<Facts>(({ rules, tiers, sentTo = new Map() }) => {
  const { tax, deliveries = [] } = rules.rulebook
  if (!tax?.settings || tax.settings.place === 'origin') return []
  const places = (tax.rates ?? []).map(({ place }) => place)
  const isWhole = ({ region, startsWith }: (typeof places)[number]) => region === undefined && !startsWith?.length
  const whole = new Set(places.filter(isWhole).map(({ country }) => country))
  const partly = new Set(places.map(({ country }) => country))
  const chosen = deliveries.filter(one => one.active !== false).flatMap(one => one.to ?? [])
  const countries = new Set([...sentTo.keys(), ...chosen.flatMap(({ country }) => country ?? [])])
  return [...countries]
    .filter(country => !whole.has(country) && !(partly.has(country) && whole.has(undefined)))
    .sort()
    .map(country => ({
      place: { kind: 'tax-settings' as const, key: 'site' },
      tier: tiers[0]?.id ?? '',
      facts: {
        country,
        orders: sentTo.get(country) ?? 0,
        ...(partly.has(country) ? { partly: true as const } : {}),
      },
    }))
})
