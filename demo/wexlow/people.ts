/** One for each way to stand to the mill, and one whose name and address are as long as some are. All made up; all sign in with the password below. */
export const demoPassword = 'wexlow-demo'

export interface DemoPerson {
  id: string
  name: string
  email: string
  /** Days before the demo was loaded; default: with the first level. */ joinedDaysAgo?: number
  levels?: { level: string; since: string; until?: string }[]
  roles?: string[]
}

export const wexlowPeople: DemoPerson[] = [
  { id: 'p-ines', name: 'Ines Varga', email: 'ines@wexlow.example', roles: ['keeper'] },
  { id: 'p-tomas', name: 'Tomas Reyl', email: 'tomas@wexlow.example', roles: ['page-hand'] },
  { id: 'p-oona', name: 'Oona Birk', email: 'oona@wexlow.example', roles: ['shop-hand'] },
  { id: 'p-dace', name: 'Dace Lund', email: 'dace@wexlow.example', roles: ['front-desk'] },
  { id: 'p-pia', name: 'Pia Lain', email: 'pia@wexlow.example', joinedDaysAgo: 9 },
  {
    id: 'p-fenn',
    name: 'Fenn Arlo',
    email: 'fenn@wexlow.example',
    levels: [{ level: 'friend', since: '2026-03-02T09:00:00Z' }],
  },
  {
    id: 'p-mako',
    name: 'Mako Strand',
    email: 'mako@wexlow.example',
    levels: [
      { level: 'friend', since: '2025-10-01T09:00:00Z' },
      { level: 'maker', since: '2026-05-20T09:00:00Z' },
    ],
  },
  {
    id: 'p-guda',
    name: 'Guda Moor',
    email: 'guda@wexlow.example',
    levels: [{ level: 'guild', since: '2026-01-31T12:00:00Z', until: '2027-01-31T12:00:00Z' }],
  },
  { id: 'p-stella', name: 'Stella Brand', email: 'stella@gullhaven.example', roles: ['stockist'] },
  { id: 'p-clem', name: 'Clem Ashe', email: 'clem@northschool.example', joinedDaysAgo: 23, roles: ['classroom'] },
  {
    id: 'p-tilde',
    name: 'Tilde Rask',
    email: 'tilde@wexlow.example',
    levels: [{ level: 'friend', since: '2026-02-10T09:00:00Z' }],
    roles: ['test-knitter'],
  },
  {
    id: 'p-isla',
    name: 'Isla Holm',
    email: 'isla@wexlow.example',
    levels: [{ level: 'guild', since: '2025-06-01T09:00:00Z', until: '2026-06-01T09:00:00Z' }],
    roles: ['islander'],
  },
  {
    id: 'p-maxi',
    name: 'Maximiliana-Theodosia Featherstonehaugh-Wollstonecraft of Lower Gannet Ness',
    email: 'maximiliana-theodosia.featherstonehaugh@lowergannetnesshandspinners.example',
    joinedDaysAgo: 41,
    roles: ['broadsheet'],
  },
]
