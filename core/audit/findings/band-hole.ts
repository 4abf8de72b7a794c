import { finding } from './finding'

/** Between two steps of an offer there is a quantity, or a sum, that lies in none. */
export const bandHole = finding<{ from: number; to: number }>(({ rules, tiers }) =>
  (rules.rulebook.offers ?? []).flatMap(({ id, by = 'each', bands }) => {
    if (by === 'each') return []
    const spans = bands.map(({ from = 1, to = Infinity }) => ({ from, to })).sort((a, b) => a.from - b.from)
    const before = spans.findIndex((span, i) => spans[i + 1] !== undefined && span.to + 1 < spans[i + 1]!.from)
    if (before < 0) return []
    const facts = { from: spans[before]!.to + 1, to: spans[before + 1]!.from - 1 }
    return [{ place: { kind: 'offer' as const, key: id }, tier: tiers[0]?.id ?? '', facts }]
  }),
)
