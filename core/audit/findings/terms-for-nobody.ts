import { admitsNobody } from './admits-nobody'
import { finding } from './finding'

/** Other terms of tax that no visitor there could ever be gets. */
export const termsForNobody = finding<Record<string, never>>(ask => {
  const { exceptions = [], goods = [], shown = [] } = ask.rules.rulebook.tax ?? {}
  const terms = [
    ...exceptions.map(one => ({ kind: 'exception' as const, one })),
    ...goods.map(one => ({ kind: 'goods' as const, one })),
    ...shown.map(one => ({ kind: 'shown' as const, one })),
  ]
  return terms.flatMap(({ kind, one }) =>
    one.active !== false && admitsNobody(ask, one.for)
      ? [{ place: { kind, key: one.id }, tier: ask.tiers[0]?.id ?? '', facts: {} }]
      : [],
  )
})
