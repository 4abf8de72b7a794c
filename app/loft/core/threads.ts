import type { Rulebook } from '~~/core/rulebook/rulebook'
import type { Visitor } from '~~/core/visitor/visitor'

const levelShades = ['#2f7f8f', '#2a62a0', '#5a3f8c']
const roleShades = ['#a3502a', '#74822a', '#a8436a', '#8a6a1e', '#3c7a5a', '#7a4f9a', '#9a4444', '#4f6f8f']

/** Threads somebody can choose for a column: all about equally light, so that each is told apart on both grounds. */
export const threadPalette = ['#7d827a', '#5f8894', ...levelShades, ...roleShades] as const

/** What a tier stands for: nobody signed in, somebody, a level, a role or a mix. */
export function tierSort(visitor: Visitor): 'guest' | 'signedIn' | 'level' | 'role' {
  if (!visitor.person) return 'guest'
  if (visitor.levels?.length) return 'level'
  return visitor.roles?.length ? 'role' : 'signedIn'
}

/** The colour of each tier, its thread: the same everywhere. Levels run from teal to violet by rank. */
export function threadsOf(
  tiers: { id: string; visitor: Visitor; thread?: string | undefined }[],
  book: Rulebook,
): Map<string, string> {
  const ranks = new Map((book.levels ?? []).map(level => [level.id, level.rank]))
  const ranked = [...ranks].sort((a, b) => a[1] - b[1]).map(([id]) => id)
  let roles = 0
  function usual(visitor: Visitor): string {
    const sort = tierSort(visitor)
    if (sort === 'guest') return '#7d827a'
    if (sort === 'signedIn') return '#5f8894'
    if (sort === 'role') return roleShades[roles++] ?? `oklch(0.52 0.11 ${(roles * 67) % 360})`
    const highest = (visitor.levels ?? []).map(one => ranked.indexOf(one.level)).reduce((a, b) => Math.max(a, b), 0)
    return ranked.length <= 3
      ? (levelShades[highest] ?? levelShades[2]!)
      : `oklch(0.5 0.1 ${200 + (95 * highest) / (ranked.length - 1)})`
  }
  return new Map(
    tiers.map(({ id, visitor, thread }) => {
      // Counted all the same: choosing one colour moves no other.
      const own = usual(visitor)
      return [id, thread ?? own]
    }),
  )
}
