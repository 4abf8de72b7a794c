/** Finding people among a hundred thousand: what the console asks of the database, and how long it takes. */
import { sql } from 'drizzle-orm'
import type { Condition } from '../core/conditions/condition'
import { CompiledRules } from '../core/gates/compiled'
import { connect } from '../server/db/database'
import { applyBulk, previewBulk, undoBulk } from '../server/services/people/bulk'
import type { Rulebook } from '../core/rulebook/rulebook'
import type { SiteIndex } from '../core/site/site-index'
import { doorCounts } from '../server/services/entrance/door-counts'
import { countCrossings } from '../server/services/people/crossings'
import type { FilterWorld } from '../server/services/people/filter/people-filter'
import { listPeople } from '../server/services/people/people'
import type { PeopleQuery } from '../server/services/people/people'
import type { Snapshot } from '../server/services/live/snapshot'
import { contentsAt, readState } from '../server/services/versions/versions'

const people = 100_000
const rounds = 40

/** Made in the database itself: every third person holds a level, every seventh a role, every tenth belongs to a firm. */
async function generate(db: ReturnType<typeof connect>['db']): Promise<void> {
  await db.execute(sql`insert into person (id, name, email, confirmed_at, approved_at, created_at, facts)
    select 'g-' || n, (array['Ada','Bram','Cora','Dirk','Elin','Finn','Greta','Hugo'])[1 + n % 8] || ' ' || (array['Aske','Birk','Dahl','Eide','Foss','Holm','Lind','Moen','Nord','Vik'])[1 + (n / 8) % 10] || ' ' || n, 'person' || n || '@made.example',
      case when n % 50 > 0 then now() end, case when n % 40 > 0 then now() end, now() - (n % 700) * interval '1 day', jsonb_build_object('spindles', n % 11) from generate_series(1, ${people}) n`)
  await db.execute(
    sql`insert into membership (person_id, level, since, until, granted_by) select 'g-' || n, (array['friend','maker','guild'])[1 + (n / 3) % 3], now() - (30 + n % 500) * interval '1 day', case when n % 4 = 0 then now() + ((n % 500) - 20) * interval '1 day' end, 'bench' from generate_series(1, ${people}, 3) n`,
  )
  await db.execute(
    sql`insert into role_grant (person_id, role, granted_by) select 'g-' || n, (array['stockist','classroom','test-knitter','islander'])[1 + (n / 7) % 4], 'bench' from generate_series(1, ${people}, 7) n`,
  )
  await db.execute(sql`insert into firm (id, name) select 'f-' || n, 'Firm ' || n from generate_series(1, 500) n`)
  await db.execute(
    sql`insert into firm_member (person_id, firm_id) select 'g-' || n, 'f-' || (1 + n % 500) from generate_series(1, ${people}, 10) n`,
  )
  await db.execute(
    sql`insert into firm_level (firm_id, level, since, granted_by) select 'f-' || n, 'maker', now() - interval '40 days', 'bench' from generate_series(1, 500, 5) n`,
  )
  await db.execute(sql`vacuum analyze`)
}

const where = (condition: Condition): PeopleQuery => ({ condition })
const queries: [string, PeopleQuery][] = [
  ['everybody, first page', {}],
  ['everybody, from the middle', { after: { name: 'Elin Holm 52', id: 'g-52' } }],
  ['three letters of a name', { search: 'foss' }],
  ['one address', { search: 'person4711@' }],
  ['who waits for approval', { standing: 'waiting' }],
  ['Guild or above', where({ level: { atLeast: 'guild' } })],
  ['stockists or classrooms', where({ role: { anyOf: ['stockist', 'classroom'] } })],
  [
    'makers who are not islanders, with three spindles',
    where({
      all: [
        { level: { in: ['maker'] } },
        { not: { role: { anyOf: ['islander'] } } },
        { fact: { name: 'spindles', is: 3 } },
      ],
    }),
  ],
  ['the gansey circle, or of one firm', where({ any: [{ audience: 'gansey-circle' }, { firm: { in: ['f-7'] } }] })],
  ['members for a year', where({ memberFor: { atLeast: 'P1Y' } })],
]

const made = 20
/** Twenty levels and as many visitor roles: who holds which, and which together. */
async function benchCrossings(
  db: ReturnType<typeof connect>['db'],
  { book, index }: { book: Rulebook; index: SiteIndex },
): Promise<void> {
  const ids = (name: string, has: number) => Array.from({ length: made - has }, (_, i) => `${name}-${i + 1}`)
  const levels = ids('made-level', book.levels?.length ?? 0)
  const roles = ids('made-role', (book.roles ?? []).filter(role => !role.staff).length)
  await db.execute(
    sql`insert into membership (person_id, level, since, granted_by) select 'g-' || n, 'made-level-' || (1 + n % ${levels.length}::int), now() - interval '9 days', 'bench' from generate_series(2, ${people}, 5) n`,
  )
  await db.execute(
    sql`insert into role_grant (person_id, role, granted_by) select 'g-' || n, 'made-role-' || (1 + n % ${roles.length}::int), 'bench' from generate_series(2, ${people}, 6) n`,
  )
  await db.execute(sql`vacuum analyze membership, role_grant`)
  const larger: Rulebook = {
    ...book,
    levels: [...(book.levels ?? []), ...levels.map((id, i) => ({ id, rank: 1000 + i }))],
    roles: [...(book.roles ?? []), ...roles.map(id => ({ id }))],
  }
  const world = { rules: new CompiledRules(larger, index), nowMs: Date.now() }
  const times: number[] = []
  let found = await countCrossings(db, world)
  for (let i = 0; i < rounds; i++) {
    const start = performance.now()
    found = await countCrossings(db, world)
    times.push(performance.now() - start)
  }
  times.sort((a, b) => a - b)
  console.log(
    `  ${found.both.length} crossings of ${2 * made} levels and roles (aim: under 100 ms): median ${times[rounds / 2]!.toFixed(0)} ms, 95th ${times[Math.floor(rounds * 0.95)]!.toFixed(0)} ms`,
  )
}

/** A month of visitors, some of whom signed up: what the door counts of them. */
async function benchDoor(db: ReturnType<typeof connect>['db'], world: FilterWorld): Promise<void> {
  await db.execute(
    sql`insert into activity (at, kind, tier) select now() - n * interval '2 seconds', case when n % 50 = 0 then 'came' when n % 5 = 0 then 'refused' else 'view' end, 'guest' from generate_series(1, 500000) n`,
  )
  await db.execute(
    sql`insert into activity (at, kind, person_id, tier) select now() - n * interval '20 minutes', kind, 'g-' || (n * 40), 'guest' from generate_series(1, 2000) n, (values ('signUp'), ('signIn')) of (kind)`,
  )
  await db.execute(sql`vacuum analyze activity`)
  const lookAt = { fact: { name: 'spindles', atLeast: 10 } }
  const times: number[] = []
  let found = await doorCounts(db, world, lookAt)
  for (let i = 0; i < rounds; i++) {
    const start = performance.now()
    found = await doorCounts(db, world, lookAt)
    times.push(performance.now() - start)
  }
  times.sort((a, b) => a - b)
  console.log(
    `  the door's counts, ${found.came.toLocaleString('en')} came and ${found.filled.toLocaleString('en')} filled in (aim: under 50 ms): median ${times[rounds / 2]!.toFixed(0)} ms, 95th ${times[Math.floor(rounds * 0.95)]!.toFixed(0)} ms`,
  )
}

export async function benchPeople(url: string): Promise<void> {
  const connection = connect(url, 1)
  const { db } = connection
  await generate(db)
  const state = await readState(db)
  const { book, index } = await contentsAt(db, state, state.live)
  const world = { rules: new CompiledRules(book, index), nowMs: Date.now() }
  console.log(
    `people, ${people.toLocaleString('en')} made up, count and first page of each list (aim: under 100 ms at the 95th percentile):`,
  )
  const all: number[] = []
  for (const [name, query] of queries) {
    await listPeople(db, query, world)
    const times: number[] = []
    let found = 0
    for (let i = 0; i < rounds; i++) {
      const start = performance.now()
      found = (await listPeople(db, query, world)).count
      times.push(performance.now() - start)
    }
    times.sort((a, b) => a - b)
    all.push(...times)
    console.log(
      `  ${name}: ${found.toLocaleString('en')} found, median ${times[rounds / 2]!.toFixed(0)} ms, 95th ${times[Math.floor(rounds * 0.95)]!.toFixed(0)} ms`,
    )
  }
  all.sort((a, b) => a - b)
  console.log(`  all together: 95th percentile ${all[Math.floor(all.length * 0.95)]!.toFixed(0)} ms`)
  await benchBulk(db, world)
  await benchCrossings(db, { ...state, book, index })
  await benchDoor(db, world)
  await connection.close()
}

/** Everybody at once: a role given, a level taken, each undone. */
async function benchBulk(db: ReturnType<typeof connect>['db'], world: FilterWorld): Promise<void> {
  const actor = { id: 'bench', name: 'Bench' }
  const keeper = {
    rights: { personId: 'bench', masterKey: true, rules: [] },
    snapshot: { rules: world.rules, staffRules: [] } as unknown as Snapshot,
  }
  for (const what of [
    { do: 'giveRole', role: 'islander' },
    { do: 'takeLevel', level: 'maker' },
  ] as const) {
    const input = { who: { query: {} }, what }
    const times: number[] = []
    const timed = async <T>(work: Promise<T>) => {
      const start = performance.now()
      const answer = await work
      times.push(performance.now() - start)
      return answer
    }
    const { stamp, affected } = await timed(previewBulk(db, world, input))
    const { id } = await timed(applyBulk(db, keeper, { ...input, stamp }, actor))
    await timed(undoBulk(db, keeper, id, actor))
    console.log(
      `  ${what.do}, ${affected.toLocaleString('en')} people: preview ${times[0]!.toFixed(0)} ms, applied ${times[1]!.toFixed(0)} ms, undone ${times[2]!.toFixed(0)} ms`,
    )
  }
}
