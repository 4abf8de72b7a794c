/**
 * Rendered pages by view key, shared by every visitor who is sent the same
 * view. The key is computed from the whole view, so nothing can be forgotten in it.
 */
const most = 500
const kept = new Map<string, string>()

export function keptPage(key: string): string | undefined {
  const html = kept.get(key)
  if (html === undefined) return undefined
  // The page used longest ago is the first to go.
  kept.delete(key)
  kept.set(key, html)
  return html
}

export function keepPage(key: string, html: string): void {
  kept.set(key, html)
  if (kept.size > most) kept.delete(kept.keys().next().value!)
}
