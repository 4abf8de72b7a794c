import { finding } from './finding'

interface Facts {
  /** When it was last written, milliseconds since 1970. */ since: number
}
const yearMs = 365 * 86_400_000

/** A rate nobody has looked at for a year, as far as it is known when it was written. */
export const rateUnchanged = finding<Facts>(({ rules, tiers, nowMs, changedAt = new Map() }) =>
  (rules.rulebook.tax?.rates ?? []).flatMap(({ id }) => {
    const since = changedAt.get(`rate ${id}`)
    return since !== undefined && nowMs - since > yearMs
      ? [{ place: { kind: 'rate' as const, key: id }, tier: tiers[0]?.id ?? '', facts: { since } }]
      : []
  }),
)
