/** How long a membership lasts: to the end of what is paid, with grace while a renewal is due. */
const dayMs = 86_400_000

/** The exact instant a membership ends: grace counts only while it renews by itself. Null: no end. */
export function heldUntil({
  paidUntil,
  renews,
  graceDays,
}: {
  paidUntil: number | null
  renews: boolean
  graceDays: number
}): number | null {
  return paidUntil === null ? null : paidUntil + (renews ? graceDays * dayMs : 0)
}
