/** What a finding tells about itself: something wrong or doubtful, found by looking at the rules as each tier. */
import type { VersionedKind } from '../../editions/contents'
import type { CompiledRules } from '../../gates/compiled'
import type { StaffRule } from '../../staff/staff-rule'
import type { Visitor } from '../../visitor/visitor'

export interface FindingAsk {
  rules: CompiledRules
  tiers: readonly { id: string; visitor: Visitor }[]
  /** Milliseconds since 1970: the clock rules are read at. */
  nowMs: number
  /** What products cost the shop, minor units, as far as whoever asks may know it. */
  costs?: ReadonlyMap<string, number>
  /** Countries orders went to, with how many, as far as whoever asks may know it. */
  sentTo?: ReadonlyMap<string, number>
  /** By `kind key`, when an entry was last written, milliseconds since 1970, as far as it is known. */
  changedAt?: ReadonlyMap<string, number>
  /** What staff roles may do, as far as whoever asks may know it. */
  staffRules?: readonly Pick<StaffRule, 'role' | 'kind' | 'actions'>[]
}

export interface Found<F> {
  /** Where it stands and can be mended. */
  place: { kind: VersionedKind; key: string }
  /** A tier that meets it, as an example. */
  tier: string
  /** What one must know to say it. */
  facts: F
}

export interface FindingModule<F> {
  /** Each place once. */
  find(ask: FindingAsk): Found<F>[]
}

export const finding = <F>(find: FindingModule<F>['find']): FindingModule<F> => ({ find })
