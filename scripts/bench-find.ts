/** Finding among a hundred thousand pages and posts behind five hundred weaves: searches and lists, by tier. */
import { CompiledDecider } from '../core/gates/compiled-decider'
import { CompiledRules } from '../core/gates/compiled'
import { connect } from '../server/db/database'
import type { Connection, Database } from '../server/db/database'
import { keepSearchUp } from '../server/services/search/keep-up'
import { search } from '../server/services/search/search'
import { assembleView } from '../server/services/pages/page-view'
import { contentsOf, snapshotOf } from '../tests/support/world'
import { prepare } from './steps.mjs'

const pages = 50_000
const posts = 50_000
/** Sections of pages, each behind a gate of its own: with their parts, and topics, some five hundred weaves. */
const sections = 125
/** The words of a language, the common ones far more often than the rare ones (Zipf). */
const vocabulary = 4000
const wordsEach = 60
const topics = 20

const number = (value: number) => Math.round(value).toLocaleString('en')
const at = (times: readonly number[], part: number) =>
  times.toSorted((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * part))]!

const word = (n: number) =>
  (['bo', 'ca', 'di', 'fe', 'gu', 'ha', 'ki', 'lo', 'mu', 'ne'][Math.floor(n / 400) % 10] ?? '') +
  (['rin', 'sel', 'tam', 'vok', 'win', 'zur', 'pel', 'nor', 'mas', 'lid'][Math.floor(n / 40) % 10] ?? '') +
  (['a', 'e', 'o', 'u'][Math.floor(n / 10) % 4] ?? '') +
  (['n', 'l', 'r', 's', 't', 'm', 'd', 'k', 'b', 'p'][n % 10] ?? '')

/** Made the same each time (mulberry32): only which words stand where matters, not which they are. */
let state = 42
function random(): number {
  state = (state + 0x6d2b79f5) | 0
  let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
  mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
  return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32
}
const said = (many: number) =>
  Array.from({ length: many }, () => word(Math.floor(random() ** 3 * vocabulary))).join(' ')

interface Made {
  kind: string
  key: string
  body: object
  content?: object
}
function* things(): Generator<Made> {
  const conditions = [
    { everyone: true },
    { role: { anyOf: ['stockist'] } },
    ...['friend', 'maker', 'guild'].map(atLeast => ({ level: { atLeast } })),
  ]
  for (let n = 1; n <= pages; n++) {
    const [id, parent] = [`p${n}`, n > sections ? { parent: `p${(n % sections) + 1}` } : {}]
    const body = { id, title: `${said(3)} ${n}`, path: `/made/p${n}`, ...parent }
    yield { kind: 'page', key: id, body, content: { summary: said(12) } }
    const words = { body: { markdown: said(wordsEach) } }
    yield { kind: 'block', key: `b${n}`, body: { id: `b${n}`, kind: 'text', in: { page: id } }, content: words }
  }
  for (let n = 1; n <= topics; n++) yield { kind: 'topic', key: `t${n}`, body: { id: `t${n}`, title: `Topic ${n}` } }
  for (let n = 1; n <= posts; n++) {
    const date = new Date(Date.UTC(2020, 0, 1 + (n % 2000))).toISOString().slice(0, 10)
    const body = { id: `q${n}`, title: `${said(3)} ${n}`, path: `/said/q${n}`, topics: [`t${(n % topics) + 1}`], date }
    yield { kind: 'post', key: `q${n}`, body, content: { body: { markdown: said(wordsEach) } } }
  }
  for (let n = 1; n <= sections; n++) {
    const gate = { id: `made-${n}`, on: { page: `p${n}`, below: true }, open: conditions[n % conditions.length] }
    yield { kind: 'gate', key: gate.id, body: gate }
  }
  for (let n = 1; n <= topics / 2; n++) {
    const gate = { id: `topic-${n}`, on: { topic: `t${n}` }, open: { level: { atLeast: 'maker' } } }
    yield { kind: 'gate', key: gate.id, body: gate }
  }
  yield { kind: 'page', key: 'lists', body: { id: 'lists', title: 'Lists', path: '/lists' } }
  for (const of of [{ kind: 'post' }, { topic: 't3' }, { page: 'p7' }]) {
    const id = `list-${Object.keys(of)[0]}`
    const list = { kind: 'block', key: id, body: { id, kind: 'list', in: { page: 'lists' } } }
    yield { ...list, content: { body: { of, most: 50 } } }
  }
}

async function generate({ sql }: Connection): Promise<void> {
  let rows: Made[] = []
  const put = async () => {
    await sql`insert into version (kind, key, position, body, content, edition_from, changed_by)
      select kind, key, 1000, body, content, 1, 'bench' from jsonb_to_recordset(${JSON.stringify(rows)}::text::jsonb) as made(kind text, key text, body jsonb, content jsonb)`
    rows = []
  }
  for (const made of things()) if (rows.push(made) === 5000) await put()
  await put()
  await sql`insert into thing (kind, key, made_by) select kind, key, 'p-ines' from version on conflict do nothing`
  await sql`update site_state set draft_version = draft_version + 1`
  await sql.unsafe('vacuum analyze')
}

/** Common and rare words, the beginning of one, several, in a row, one with a slip in it, and none there is. */
const asked = (): string[] => {
  const [common, second, often, seldom, rare, rarest] = [0, 3, 40, 400, 1500, 3900].map(word) as [
    string,
    string,
    string,
    string,
    string,
    string,
  ]
  const slip = rare.slice(0, 2) + rare.slice(3)
  return [
    common,
    second,
    often,
    seldom,
    rare,
    rarest,
    `${common} ${second}`,
    `${often} ${seldom}`,
    `${common} ${rare} ${often}`,
    `"${common} ${second}"`,
    `${often} -${common}`,
    common.slice(0, 3),
    slip,
    'qxqxqx',
  ]
}

export async function benchFind(url: string): Promise<void> {
  prepare(url)
  const site = connect(url, 1)
  await generate(site)
  const started = performance.now()
  await keepSearchUp(site.db)
  const indexed = performance.now() - started
  await site.sql.unsafe('vacuum analyze')
  await measureFinding(site)
  console.log(`  all of it read for search in ${(indexed / 1000).toFixed(0)} s, once`)
  await site.close()
}

/** Milliseconds spent waiting for the database, through this one. */
function timing(db: Database): { db: Database; spent(): number } {
  let spent = 0
  const timed = <T extends object>(of: T): T =>
    new Proxy(of, {
      get(target, name) {
        const found = Reflect.get(target, name) as unknown
        if (typeof found !== 'function') return found
        if (name === 'transaction')
          return (work: (tx: object) => unknown) =>
            (found as typeof db.transaction).call(target, tx => work(timed(tx)) as never)
        if (name !== 'execute') return found.bind(target) as unknown
        return async (...given: unknown[]) => {
          const start = performance.now()
          const answer = await (found as (...given: unknown[]) => Promise<unknown>).apply(target, given)
          spent += performance.now() - start
          return answer
        }
      },
    })
  return { db: timed(db), spent: () => spent }
}

/** What the database does, and whole, as a page waits for it: with what is decided in memory. */
export async function measureFinding(site: Connection): Promise<void> {
  const contents = await contentsOf(site, 1)
  const rules = new CompiledRules(contents.book, contents.index)
  const nowMs = Date.now()
  const snapshot = snapshotOf(rules, [], contents)
  const searches = new Map<string, number[]>()
  const whole: number[] = []
  const lists: number[] = []
  const watched = timing(site.db)
  const tiers = contents.book.tiers ?? []
  for (const tier of tiers) {
    const decider = () => new CompiledDecider(rules, tier.visitor, nowMs)
    for (let round = 0; round < 4; round++) {
      for (const text of asked()) {
        const start = performance.now()
        const before = watched.spent()
        await search(watched.db, { snapshot, decider: decider(), text })
        // The first round fills what PostgreSQL keeps in memory, as on a site that runs.
        if (!round) continue
        whole.push(performance.now() - start)
        searches.set(text, [...(searches.get(text) ?? []), watched.spent() - before])
      }
      for (let times = 0; times < 4; times++) {
        const start = performance.now()
        await assembleView({ snapshot, decider: decider(), db: site.db, path: '/lists' })
        if (round) lists.push(performance.now() - start)
      }
    }
  }
  const all = [...searches.values()].flat()
  const slowest = [...searches]
    .map(([text, times]) => ({ text, ms: at(times, 0.95) }))
    .toSorted((a, b) => b.ms - a.ms)
    .slice(0, 3)
    .map(({ text, ms }) => `${text} ${ms.toFixed(0)} ms`)
  console.log(
    `finding among ${number(pages + posts)} pages and posts behind ${number(rules.weaves.length)} weaves, by ${tiers.length} tiers:`,
  )
  console.log(
    `  searches in the database ${at(all, 0.5).toFixed(1)} ms, ${at(all, 0.95).toFixed(1)} ms at the 95th percentile (aim: under 50), the slowest ${slowest.join(', ')}; whole ${at(whole, 0.5).toFixed(1)} and ${at(whole, 0.95).toFixed(1)} ms · a page of three lists ${at(lists, 0.5).toFixed(1)} ms, ${at(lists, 0.95).toFixed(1)} ms at the 95th`,
  )
}
