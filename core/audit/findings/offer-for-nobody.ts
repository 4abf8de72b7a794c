import { everyone } from '../../shop/offer'
import { admitsNobody } from './admits-nobody'
import { finding } from './finding'

/** An offer no visitor there could ever be gets, from now on: its days are over, or what it asks cannot be. */
export const offerForNobody = finding<Record<string, never>>(ask =>
  (ask.rules.rulebook.offers ?? []).flatMap(({ id, active = true, for: who = everyone }) =>
    active && admitsNobody(ask, who)
      ? [{ place: { kind: 'offer' as const, key: id }, tier: ask.tiers[0]?.id ?? '', facts: {} }]
      : [],
  ),
)
