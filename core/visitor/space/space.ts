/**
 * Everybody who could ask, as far as some conditions can tell them apart: each thing a condition looks at is cut by the
 * constants in it, and of each piece one stands for all. What the cuts leave is finite, so that something can be tried on
 * all of them and is then true of every visitor there can be.
 */
import type { Holdings } from '../asker'
import type { Visitor } from '../visitor'
import { clock } from './clock'
import type { Cuts, Dimension } from './dimension'
import { product, sizeOf } from './pieces'
import type { Piece } from './pieces'

export class Space implements Cuts {
  private readonly noted = new Map<Dimension<never>, unknown>()
  undecidable = false

  constructor(
    readonly holdings: Holdings,
    readonly nowMs: number,
  ) {
    // Everybody asks at some time.
    this.on(clock)
  }

  on<N>(dimension: Dimension<N>): N {
    const found = this.noted.get(dimension as Dimension<never>) as N | undefined
    if (found) return found
    const started = dimension.start()
    this.noted.set(dimension as Dimension<never>, started)
    return started
  }

  /** Pieces of what anybody comes with; with `held` of what only somebody signed in is or has. */
  private pieces(held: boolean): Piece[][] {
    return [...this.noted]
      .filter(([dimension]) => (dimension.held ?? false) === held)
      .flatMap(([dimension, noted]) => dimension.pieces(noted as never, this))
      .filter(list => list.length > 0)
  }

  /** How many there are: guests, and everybody else. */
  get count(): number {
    const common = sizeOf(this.pieces(false))
    return common + common * sizeOf(this.pieces(true))
  }

  /** One visitor for each piece of the space, the plainest first: guests before others. */
  *visitors(): Generator<Visitor> {
    const [common, held] = [this.pieces(false), this.pieces(true)]
    for (const visitor of product({ person: null }, common)) yield visitor
    for (const somebody of product({ person: { id: 'somebody' } }, common)) yield* product(somebody, held)
  }
}
