/** A part of a whole, exact whatever the size, taken of amounts in whole minor units. */
import { decimalText, Fraction, rounded } from '../exact'

const largestSafe = Number.MAX_SAFE_INTEGER

export class Ratio {
  /** The same as doubles, and the largest amount that can be reckoned in them without losing a digit. */
  private readonly small: { n: number; d: number; most: number }

  /** Not below nothing. */
  constructor(private readonly exact: Fraction) {
    const [n, d] = [Number(exact.n), Number(exact.d)]
    this.small = { n, d, most: n === 0 ? largestSafe : Math.floor((largestSafe - d) / (2 * n)) }
  }

  times(other: Ratio): Ratio {
    return new Ratio(this.exact.mul(other.exact))
  }

  plus(other: Ratio): Ratio {
    return new Ratio(this.exact.add(other.exact))
  }

  /** Of one that is no larger. */
  minus(other: Ratio): Ratio {
    return new Ratio(this.exact.sub(other.exact))
  }

  inverse(): Ratio {
    return new Ratio(this.exact.inverse())
  }

  equals(other: Ratio): boolean {
    return this.exact.equals(other.exact)
  }

  /** Whether it comes to a whole amount, so that nothing is rounded. */
  isWholeOf(amount: number): boolean {
    return this.exact.mul(amount).d === 1n
  }

  /** In percent, as a decimal such as `"13.5"`. Only of what has an end in decimals, as percentages and products of them have. */
  get percent(): string {
    return decimalText(this.exact.mul(100))
  }

  /** Of an amount, half rounded up. */
  of(amount: number): number {
    const { n, d, most } = this.small
    // The dividend is exact, and so far from the ends of a double that dividing it cannot reach the next whole number.
    if (amount <= most) return Math.floor((2 * amount * n + d) / (2 * d))
    return rounded(this.exact.mul(amount))
  }
}

export const one = new Ratio(new Fraction(1))
