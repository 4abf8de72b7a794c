/** Which levels somebody holds and since when, and which roles. Levels bring roles, so that both are cut together. */
import type { Holdings } from '../asker'
import { mostListed, subsets } from './dimension'
import type { Cuts, Dimension } from './dimension'
import { latestStart, longAgoMs } from './pieces'
import type { Piece } from './pieces'

interface Noted {
  usesLevels: boolean
  levels: Set<string>
  roles: Set<string>
  /** How long something is to have been held, of one level or of any. */
  durations: { atLeast: string; level?: string | undefined }[]
}

const mostMixes = 20_000

export const holds: Dimension<Noted> = {
  held: true,
  start: () => ({ usesLevels: false, levels: new Set(), roles: new Set(), durations: [] }),
  pieces: (noted, space) => [
    levelPieces(noted, space),
    subsets([...noted.roles], (visitor, roles) => ({ ...visitor, roles }), space),
  ],
}

export function noteLevel(space: Cuts, id: string): void {
  const noted = space.on(holds)
  noted.usesLevels = true
  noted.levels.add(id)
}

export function noteDuration(space: Cuts, atLeast: string, level: string | undefined): void {
  const noted = space.on(holds)
  noted.usesLevels = true
  if (level !== undefined) noted.levels.add(level)
  noted.durations.push({ atLeast, level })
  // A month is sometimes longer than thirty days and sometimes not: which of two passes first depends on the day.
  const inMonths = noted.durations.filter(one => /^P[^T]*[YM]/.test(one.atLeast)).length
  if (inMonths && inMonths < noted.durations.length) space.undecidable = true
}

/** Those that are named, one of each rank between them, and those that bring a role that is. */
function relevantLevels({ usesLevels, levels, roles }: Noted, holdings: Holdings): string[] {
  const bringing = [...holdings.rolesOfLevel]
    .filter(([, brings]) => brings.some(role => roles.has(role)))
    .map(([level]) => level)
  if (!usesLevels && !bringing.length) return []
  const cuts = [...levels].map(id => holdings.ranks.get(id) ?? 0).sort((a, b) => a - b)
  const pieceOf = (rank: number) => cuts.filter(cut => cut <= rank).length * 2 + (cuts.includes(rank) ? 1 : 0)
  const chosen = new Map<string, string>()
  for (const [id, rank] of holdings.ranks) {
    const isOwn = levels.has(id) || bringing.includes(id)
    const piece = isOwn ? `level ${id}` : `rank ${pieceOf(rank)}`
    if (!chosen.has(piece)) chosen.set(piece, id)
  }
  return [...chosen.values()]
}

function levelPieces(noted: Noted, space: Cuts): Piece[] {
  const levels = relevantLevels(noted, space.holdings)
  if (!levels.length) return []
  if (levels.length > mostListed) {
    space.undecidable = true
    return []
  }
  // Since when each is held: long ago, or, where somebody looks at that, just long enough, or since now.
  const choices = levels.map(level => [null, ...sinces(level, noted, space.holdings.timezone)])
  const found: Piece[] = []
  const walk = (i: number, chosen: ((at: number) => { level: string; since: string })[]): void => {
    if (found.length > mostMixes) return void (space.undecidable = true)
    if (i === levels.length) {
      found.push(visitor => {
        const at = visitor.request?.at ? Date.parse(visitor.request.at) : space.nowMs
        return { ...visitor, levels: chosen.map(make => make(at)) }
      })
      return
    }
    for (const since of choices[i]!)
      walk(
        i + 1,
        since === null ? chosen : [...chosen, at => ({ level: levels[i]!, since: new Date(since(at)).toISOString() })],
      )
  }
  walk(0, [])
  return found
}

function sinces(level: string, { durations }: Noted, timezone: string): ((at: number) => number)[] {
  const looked = durations.filter(one => one.level === undefined || one.level === level)
  const longAgo = (at: number) => at - longAgoMs
  if (!looked.length) return [longAgo]
  const justLongEnough = looked.map(
    ({ atLeast }) =>
      (at: number) =>
        latestStart(at, atLeast, timezone),
  )
  return [longAgo, ...justLongEnough, (at: number) => at]
}
