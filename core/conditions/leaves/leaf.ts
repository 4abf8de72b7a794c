/** What a thing a rule can look at tells about itself. One module per leaf, one line in `leaves.ts`. */
import type { z } from 'zod'
import type { Kind, SiteRecord } from '../../kinds/kinds'
import type { Path } from '../../pointer'
import { triOf, UNKNOWN } from '../../tri'
import type { Tri } from '../../tri'
import type { AsIf } from '../../visitor/as-if'
import type { Asker, Holdings } from '../../visitor/asker'
import type { FactGroup } from '../../visitor/fact-group'
import type { Cuts } from '../../visitor/space/dimension'

/** Everything a leaf may look at. */
export interface Asking {
  readonly asker: Asker
  /** The record in question, for gates on records and fields. */
  readonly record: SiteRecord | undefined
  audience(id: string): Tri
  opens(kind: Kind, id: string): boolean
}

/** Lists of the rulebook whose ids a leaf may name. */
export type RuleList = 'levels' | 'roles' | 'permissions' | 'audiences'

/** For following the ids an argument names. Arguments are raw: what is malformed is passed over. */
export interface References {
  /** The register whose records the gate stands before, for leaves that look at one. */
  readonly register: string | undefined
  /** Notes ids that lead nowhere: each of a list, or one. */
  among(value: unknown, at: Path, list: RuleList | { kind: string }): void
  /** A field of the register, of that type where one is given. */
  field(id: unknown, at: Path, type?: string): void
  /** A profile fact, and what it is compared with. */
  fact(argument: Record<string, unknown>, at: Path): void
  /** What a field is compared with. */
  recordField(argument: Record<string, unknown>, at: Path): void
}

/** Who asks, and whether the leaf is to be true or, under a `not`, false. */
export interface WaysAsking {
  asker: Asker
  wanted: boolean
}

/** One way for each of a list, where it is to be true. */
export const eachOf =
  <T>(make: (one: T) => AsIf) =>
  ({ in: list }: { in: T[] }, { wanted }: WaysAsking): AsIf[][] =>
    wanted ? list.map(one => [make(one)]) : []

export interface LeafModule<A> {
  /** What stands behind its key. */
  shape: z.ZodType<A>
  /** The part of the request it looks at; null for one that looks at none, or leads to other rules. */
  looksAt: FactGroup | null
  /** Read in the visitor's favour when a master key is used. */
  held?: true
  /** Looks at the record the gate stands before. */
  ofRecord?: true
  /** True, false or unknown. */
  test(argument: A, asking: Asking): Tri
  /** The same, with what is worth reading only once read. Default: `test`. */
  prepare?(argument: A, holdings: Holdings): (asking: Asking) => Tri
  /**
   * What could be so of whoever asks that makes it true; false with `wanted: false`. Each is tried, so that one may
   * promise too much. Null: nothing they could come by, or that would have to be undone.
   */
  ways: ((argument: A, asking: WaysAsking) => AsIf[][]) | null
  references?(argument: unknown, at: Path, check: References): void
  /**
   * Cuts what it looks at by the constants in it, so that of each piece one stands for all. Null: nothing can be
   * tried on every visitor there can be. Leaves that lead to other rules are followed instead.
   */
  cut: ((argument: A, space: Cuts) => void) | null
}

/** A module with the type of its argument, which the list passes on. */
export const leaf = <S extends z.ZodType>(
  shape: S,
  module: Omit<LeafModule<z.infer<S>>, 'shape'>,
): LeafModule<z.infer<S>> & { shape: S } => ({ ...module, shape }) as LeafModule<z.infer<S>> & { shape: S }

/** Unknown where there is no value. */
export const isAmong = (value: string | undefined, list: readonly string[]): Tri =>
  value === undefined ? UNKNOWN : triOf(list.includes(value))
