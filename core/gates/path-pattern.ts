/** Path patterns of guards: `*` is one segment, `**` any number of them, none included; `?name=value` pairs must all be present. */
export interface PathPattern {
  matches(path: string): boolean
  /** Pairs the request's query must carry, as `[name, value]`. */
  pairs: readonly (readonly [string, string])[]
}

const segmentsOf = (path: string) => path.split('/').filter(part => part !== '')
const literal = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')

export function pathPattern(pattern: string): PathPattern {
  const mark = pattern.indexOf('?')
  const path = mark < 0 ? pattern : pattern.slice(0, mark)
  const pairs = mark < 0 ? [] : [...new URLSearchParams(pattern.slice(mark + 1))]
  const source = segmentsOf(path).map(part => (part === '**' ? '(?:/[^/]+)*' : part === '*' ? '/[^/]+' : `/${literal(part)}`)).join('')
  const expression = new RegExp(`^${source}$`)
  return { matches: asked => expression.test(trimmed(asked)), pairs }
}

/** Slashes at the end, and doubled ones, do not matter. */
function trimmed(path: string): string {
  if (!path.endsWith('/') && !path.includes('//')) return path
  return segmentsOf(path).map(part => `/${part}`).join('')
}

export const queryFits = (pairs: PathPattern['pairs'], query: Readonly<Record<string, string>>) => pairs.every(([name, value]) => Object.hasOwn(query, name) && query[name] === value)
