/** What somebody came to, was refused, or fetched, as Activity tells of it. */
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import { decidingGate } from '../../../core/gates/deciding-gate'
import type { Resource } from '../../../core/kinds/kinds'
import type { SignedIn } from '../entrance/sessions'
import { record, tierOf } from './activity'

export interface Visit {
  signedIn: SignedIn | null
  /** Who decided it. */ decider: CompiledDecider
}

export function recordVisit(
  kind: 'view' | 'download' | 'refused',
  thing: Pick<Resource, 'kind' | 'id'>,
  { signedIn, decider }: Visit,
): void {
  record({
    kind,
    personId: signedIn?.personId ?? null,
    tier: tierOf(decider.asker, decider.rules.rulebook),
    subjectKind: thing.kind,
    subjectId: thing.id,
    // Which gate it was is found out when the row is written: a refused page must not take longer than a missing one.
    ...(kind === 'refused' ? { gate: () => decidingGate(decider, thing) } : {}),
  })
}
