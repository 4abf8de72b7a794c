/**
 * The one spelling of a path. Whatever decides and whatever answers must read
 * the same address, so every other spelling is led to this one or refused
 * (RFC 3986, 6.2.2: case, percent-encoding and path segments).
 */

/** What may stand in a segment as it is: `pchar` of RFC 3986, 3.3. Everything else is percent-encoded. */
const literal = /[A-Za-z0-9\-._~!$&'()*+,;=:@]/

/** Spelled as it should be, as nearly all are: seen at once. No segment begins with a dot, none is empty. */
const plain = /^(?:\/|(?:\/[A-Za-z0-9\-_~][A-Za-z0-9\-._~]*)+)$/

/**
 * The canonical form of the path of a request target (without its query);
 * null where it cannot be read: no leading slash, control characters,
 * backslashes, encoded slashes, broken percent-encoding, bytes that are no UTF-8.
 */
export function canonicalPath(raw: string): string | null {
  if (plain.test(raw)) return raw
  if (!raw.startsWith('/')) return null
  const segments: string[] = []
  for (const part of raw.split('/')) {
    const segment = decoded(part)
    if (segment === null) return null
    if (segment === '..') segments.pop()
    else if (segment !== '' && segment !== '.') segments.push(segment)
  }
  return `/${segments.map(encoded).join('/')}`
}

function decoded(part: string): string | null {
  let text: string
  try {
    text = decodeURIComponent(part)
  } catch {
    return null
  }
  return [...text].some(
    char => char < ' ' || char === '\u007F' || char === '/' || char === '\\' || isHighByte(part, char),
  )
    ? null
    : text
}

/** Bytes above ASCII reach us as they are only from clients that do not encode; which characters they meant is a guess. */
const isHighByte = (part: string, char: string) => char > '\u007F' && part.includes(char)

const encoded = (segment: string) =>
  [...segment].map(char => (literal.test(char) ? char : encodeURIComponent(char))).join('')
