/** A part of a whole, exact whatever the size, taken of amounts in whole minor units. */

const largestSafe = Number.MAX_SAFE_INTEGER

export class Ratio {
  readonly n: bigint
  readonly d: bigint
  /** The same as doubles, and the largest amount that can be reckoned in them without losing a digit. */
  private readonly small: { n: number; d: number; most: number }

  /** Neither below nothing; `d` more than nothing. */
  constructor(n: bigint, d: bigint) {
    const by = n === 0n ? d : greatestDivisor(n, d)
    this.n = n / by
    this.d = d / by
    const [sn, sd] = [Number(this.n), Number(this.d)]
    this.small = { n: sn, d: sd, most: sn === 0 ? largestSafe : Math.floor((largestSafe - sd) / (2 * sn)) }
  }

  times(other: Ratio): Ratio {
    return new Ratio(this.n * other.n, this.d * other.d)
  }

  inverse(): Ratio {
    return new Ratio(this.d, this.n)
  }

  equals({ n, d }: Ratio): boolean {
    return this.n === n && this.d === d
  }

  /** Of an amount, half rounded up. */
  of(amount: number): number {
    const { n, d, most } = this.small
    // The dividend is exact, and so far from the ends of a double that dividing it cannot reach the next whole number.
    if (amount <= most) return Math.floor((2 * amount * n + d) / (2 * d))
    return Number((2n * BigInt(amount) * this.n + this.d) / (2n * this.d))
  }
}

function greatestDivisor(a: bigint, b: bigint): bigint {
  while (b) [a, b] = [b, a % b]
  return a
}

export const one = new Ratio(1n, 1n)

/** A part in percent, as a decimal such as `"13.5"`. Only of what has an end in decimals, as percentages and products of them have. */
export function percentWords({ n, d }: Ratio): string {
  let scaled = n * 100n
  let digits = 0
  for (; scaled % d; digits++) scaled *= 10n
  const text = (scaled / d).toString().padStart(digits + 1, '0')
  return digits ? `${text.slice(0, -digits)}.${text.slice(-digits)}` : text
}
