/** JSON with keys in order, so that equal documents are equal texts. */
export function canonical(value: unknown): string {
  if (value === undefined) return 'undefined'
  return JSON.stringify(value, (_, part: unknown) =>
    part && typeof part === 'object' && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  )
}
