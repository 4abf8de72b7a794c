/** Path patterns of guards: `*` is one segment, `**` any number of them, none included; `?name=value` pairs must all be present. */
export interface PathPattern {
  matches(path: string): boolean
  /** Pairs the request's query must carry, as `[name, value]`. */
  pairs: readonly (readonly [string, string])[]
}

/** The longest pattern a rulebook may hold, in characters. */
export const mostPatternLength = 500

const segmentsOf = (path: string) => path.split('/').filter(part => part !== '')

export function pathPattern(pattern: string): PathPattern {
  const mark = pattern.indexOf('?')
  const path = mark < 0 ? pattern : pattern.slice(0, mark)
  const pairs = mark < 0 ? [] : [...new URLSearchParams(pattern.slice(mark + 1))]
  const wanted = segmentsOf(path)
  return { matches: asked => segmentsFit(wanted, segmentsOf(asked)), pairs }
}

/**
 * Only the latest `**` is ever given one segment more: what an earlier one
 * could take instead, the latest can take as well. So the work is at most
 * pattern times path, however many `**` there are.
 */
function segmentsFit(wanted: readonly string[], asked: readonly string[]): boolean {
  let at = 0
  let from = 0
  /** Where the latest `**` stands, and the first segment it has not taken. */
  let star = -1
  let taken = 0
  while (from < asked.length) {
    const part = wanted[at]
    if (part === '**') {
      star = at++
      taken = from
    } else if (part !== undefined && (part === '*' || part === asked[from])) {
      at++
      from++
    } else if (star >= 0) {
      at = star + 1
      from = ++taken
    } else return false
  }
  return wanted.slice(at).every(part => part === '**')
}

export const queryFits = (pairs: PathPattern['pairs'], query: Readonly<Record<string, string>>) =>
  pairs.every(([name, value]) => Object.hasOwn(query, name) && query[name] === value)
