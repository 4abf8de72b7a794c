import { finding } from './finding'

/** A staff role whose name promises prices may count the stock and not change a price. Found where staff rules are known. */
export const stockWithoutPrice = finding<Record<string, never>>(({ rules, tiers, staffRules = [] }) =>
  (rules.rulebook.roles ?? []).flatMap(({ id, name = id, staff }) => {
    const may = (kind: string) =>
      staffRules.some(rule => rule.role === id && rule.kind === kind && rule.actions.includes('change'))
    const promises = /\bpric(e|es|ing)\b/i.test(name)
    return staff && promises && may('stock') && !may('prices')
      ? [{ place: { kind: 'role' as const, key: id }, tier: tiers[0]?.id ?? '', facts: {} }]
      : []
  }),
)
