/** A month of made-up comings and goings, so that the charts of the demo have something to draw. Always the same for the same day. */
import { repeatable } from '../generators'
import { wexlowPeople } from './people'
import type { ActivityKind } from '../../core/activity-kinds'

interface Row {
  at: Date
  kind: ActivityKind
  personId: string | null
  tier: string
  subjectKind: string | null
  subjectId: string | null
  gate: string | null
  detail?: Record<string, unknown>
}

const crowd: { tier: string; person?: string; visits: number }[] = [
  { tier: 'guest', visits: 14 },
  { tier: 'signed-in', person: 'p-pia', visits: 2 },
  { tier: 'friend', person: 'p-fenn', visits: 5 },
  { tier: 'maker', person: 'p-mako', visits: 6 },
  { tier: 'guild', person: 'p-guda', visits: 4 },
  { tier: 'stockist', person: 'p-stella', visits: 3 },
  { tier: 'classroom', person: 'p-clem', visits: 2 },
]
const open = ['welcome', 'techniques', 'visit', 'ferry', 'join']
const walls: [page: string, gate: string][] = [
  ['gansey', 'gansey'],
  ['gansey', 'gansey'],
  ['mending', 'library'],
  ['stranded', 'library'],
  ['steeks', 'steeks'],
  ['trade', 'trade'],
  ['indigo', 'winter-vat'],
]

const nobody = { personId: null, tier: 'guest', subjectKind: null, subjectId: null, gate: null } as const

export function wexlowActivity(nowMs: number, days = 30): Row[] {
  const next = repeatable(41)
  const pick = <T>(list: readonly T[]) => list[Math.floor(next() * list.length)]!
  const rows: Row[] = []
  for (let day = days; day >= 0; day--) {
    for (const { tier, person, visits } of crowd) {
      const at = () => new Date(nowMs - day * 86_400_000 - Math.floor(next() * 43_200_000) - 60_000)
      const who = { personId: person ?? null, tier }
      if (person && next() < 0.5)
        rows.push({ at: at(), kind: 'signIn', ...who, subjectKind: null, subjectId: null, gate: null })
      // Saturdays, when the loom is open, bring more people.
      const busy = new Date(nowMs - day * 86_400_000).getUTCDay() === 6 ? 1.8 : 1
      for (let i = 0; i < visits * busy * (0.5 + next()); i++)
        rows.push({ at: at(), kind: 'view', ...who, subjectKind: 'page', subjectId: pick(open), gate: null })
      if (tier !== 'guild' && next() < 0.6) {
        const [page, gate] =
          tier === 'guest' ? pick(walls) : pick(walls.filter(([, one]) => one === 'gansey' || one === 'trade'))
        rows.push({ at: at(), kind: 'refused', ...who, subjectKind: 'page', subjectId: page, gate })
      }
      if (tier === 'guest' && next() < 0.3)
        rows.push({ at: at(), kind: 'click', ...who, subjectKind: 'block', subjectId: 'welcome-join', gate: null })
    }
  }
  // Some look at the form and go again; some choose a password that is too short.
  for (const day of [1, 3, 4, 8, 9, 13, 19, 23, 26].filter(one => one <= days))
    rows.push({ at: new Date(nowMs - day * 86_400_000 - 7_200_000), kind: 'came', ...nobody })
  for (const day of [4, 13].filter(one => one <= days))
    rows.push({
      at: new Date(nowMs - day * 86_400_000 - 7_100_000),
      kind: 'stopped',
      ...nobody,
      detail: { at: 'password' },
    })
  for (const one of wexlowPeople.filter(person => person.joinedDaysAgo !== undefined))
    rows.push({
      at: new Date(nowMs - one.joinedDaysAgo! * 86_400_000),
      kind: 'signUp',
      personId: one.id,
      tier: 'guest',
      subjectKind: null,
      subjectId: null,
      gate: null,
    })
  return rows
}
