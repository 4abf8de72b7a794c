/**
 * A sum shared over amounts in proportion to them, in whole minor units by the largest remainder: who is owed the
 * largest part of a unit gets it, of equal ones the earlier. (Hamilton's method of apportionment.)
 */
export function shared(sum: number, amounts: readonly number[]): number[] {
  const whole = amounts.reduce((all, one) => all + BigInt(one), 0n)
  if (whole === 0n) return amounts.map(() => 0)
  const parts = amounts.map((amount, i) => {
    const exact = BigInt(amount) * BigInt(sum)
    return { i, share: exact / whole, rest: exact % whole }
  })
  const left = BigInt(sum) - parts.reduce((all, { share }) => all + share, 0n)
  const owed = parts.toSorted((a, b) => (a.rest > b.rest ? -1 : a.rest < b.rest ? 1 : a.i - b.i)).slice(0, Number(left))
  for (const part of owed) part.share++
  return parts.map(({ share }) => Number(share))
}
