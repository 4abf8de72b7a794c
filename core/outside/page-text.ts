/** The bytes of a page as a text: written as `said` tells, else as it tells in its first bytes (HTML standard, prescan), else UTF-8. */
export function textOfPage(bytes: Uint8Array, said?: string): string {
  const named = said ?? charsetIn(bytes)
  try {
    return new TextDecoder(named ?? 'utf-8').decode(bytes)
  } catch {
    return new TextDecoder().decode(bytes)
  }
}
const looked = 1024
const charsetIn = (bytes: Uint8Array) =>
  /<meta[^>]+charset\s*=\s*["']?([\w-]+)/i.exec(new TextDecoder('latin1').decode(bytes.subarray(0, looked)))?.[1]
