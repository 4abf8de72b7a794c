/** The measures of `npm run bench`; a PostgreSQL of its own is given by DATABASE_URL. */
import autocannon from 'autocannon'
import { generatedRules, generatedShop } from '../demo/generators'
import { reachBoard, sharesByKind } from '../core/audit/reach-board'
import { CompiledRules, thingsOf } from '../core/gates/compiled'
import { CompiledDecider } from '../core/gates/compiled-decider'
import { RuleSet } from '../core/gates/rule-set'
import { PlainDecider } from '../core/gates/plain-decider'
import { benchSite } from './bench-site'
import { benchFetch } from './bench-fetch'
import { benchFind } from './bench-find'
import { benchKept } from './bench-kept'
import { benchLarge } from './bench-large'
import { benchPeople } from './bench-people'
import { benchOrders } from './bench-orders'
import { benchGoodsFile, benchPrices } from './bench-prices'
import { serve, signedInAt } from './serving.mjs'
import { prepare } from './steps.mjs'

const at = Date.parse('2026-11-24T10:00:00Z')
const number = (value: number) => Math.round(value).toLocaleString('en')
function timed<T>(work: () => T): [T, number] {
  const start = performance.now()
  const result = work()
  return [result, performance.now() - start]
}

/** Best of several runs, so that a busy neighbour does not count. */
function best<T>(times: number, work: () => T): [T, number] {
  const runs = Array.from({ length: times }, () => timed(work))
  return runs.reduce((a, b) => (b[1] < a[1] ? b : a))
}

function decisions(): void {
  const { book, site, visitors } = generatedRules({ gates: 200, audiences: 60, pages: 600, visitors: 400 })
  const rules = new CompiledRules(book, site)
  const plainRules = new RuleSet(book, site)
  const pages = site.pages!
  const handles = pages.map(page => rules.weaveOf({ kind: 'page', id: page.id }))
  const sum = () => {
    let admitted = 0
    for (const visitor of visitors) {
      const decider = new CompiledDecider(rules, visitor, at)
      for (const weave of handles) admitted += decider.bitsOfWeave(weave) & 4 ? 1 : 0
    }
    return admitted
  }
  // The engine's compiler settles in the first runs; a server that has answered a while is past them.
  const [admitted, ms] = best(15, sum)
  const few = visitors.slice(0, 8)
  const plainSum = () =>
    few.reduce((total, visitor) => {
      const decider = new PlainDecider(plainRules, visitor, at)
      return total + pages.filter(page => decider.opens('page', page.id, true)).length
    }, 0)
  const [plainAdmitted, plainMs] = best(2, plainSum)
  const check = few.reduce((total, visitor) => {
    const decider = new CompiledDecider(rules, visitor, at)
    return total + handles.filter(weave => decider.bitsOfWeave(weave) & 4).length
  }, 0)
  if (check !== plainAdmitted) throw new Error(`compiled admits ${check}, plain ${plainAdmitted}`)
  const compiledRate = (visitors.length * pages.length) / (ms / 1000)
  const plainRate = (few.length * pages.length) / (plainMs / 1000)
  console.log(
    `decisions, 200 gates, 60 audiences, ${pages.length} pages in ${rules.weaves.length} weaves, ${visitors.length} visitors each made ready anew (${number(admitted)} admitted):`,
  )
  console.log(
    `  compiled ${number(compiledRate)} a second · plain ${number(plainRate)} a second · ratio ${(compiledRate / plainRate).toFixed(0)}, equal answers (aim: above 3,000,000)`,
  )
}

function board(): void {
  const { book, site, tiers } = generatedShop({ things: 100_000, categories: 1900, tiers: 40 })
  const things = thingsOf(site).filter(thing => thing.kind === 'product')
  const [rules, indexMs] = timed(() => new CompiledRules(book, site))
  const [, weaveMs] = timed(() => things.forEach(thing => rules.weaveOf(thing)))
  const [, boardMs] = best(3, () => sharesByKind(reachBoard(rules, things, tiers, at)))
  console.log(
    `reach board, ${number(things.length)} things by ${tiers.length} tiers, ${number(rules.weaves.length)} weaves:`,
  )
  console.log(
    `  decided and counted in ${boardMs.toFixed(0)} ms (aim: under 500); once per edition, indexing ${indexMs.toFixed(0)} ms and weaving ${weaveMs.toFixed(0)} ms`,
  )
}

async function pages(): Promise<void> {
  const url = process.env.DATABASE_URL!
  prepare(url)
  const server = await serve(url)
  try {
    const address = server.url
    const cookie = await signedInAt(address, 'mako')
    await manyParts(address)
    const load = async (path: string, seconds: number) => {
      const { latency, requests, non2xx } = await autocannon({
        url: address + path,
        connections: 20,
        duration: seconds,
        headers: { cookie },
      })
      if (non2xx) throw new Error(`${path} answered ${non2xx} times with something else than 200`)
      return { ms: latency.average, rate: requests.average }
    }
    // Two pages of one paragraph each: boats stand behind no gate, the long draw behind two with four leaves.
    const [open, gated] = ['/visit/ferry', '/techniques/spinning/long-draw']
    await load(open, 3)
    await load(gated, 3)
    const rounds: { open: number; gated: number; rate: number }[] = []
    for (let i = 0; i < 3; i++) {
      const a = await load(open, 3)
      const b = await load(gated, 3)
      rounds.push({ open: a.ms, gated: b.ms, rate: b.rate })
    }
    const mean = (key: 'open' | 'gated' | 'rate') =>
      rounds.reduce((total, round) => total + round[key], 0) / rounds.length
    console.log(`pages, 20 connections, signed in, each assembled anew from the database:`)
    console.log(
      `  ungated ${mean('open').toFixed(1)} ms · gated ${mean('gated').toFixed(1)} ms, ${number(mean('rate'))} a second · ratio ${(mean('gated') / mean('open')).toFixed(2)} (aim: under 1.2)`,
    )
    await load('/sixty/open', 3)
    await load('/sixty/gated', 3)
    const parts: { open: number; gated: number }[] = []
    for (let i = 0; i < 3; i++)
      parts.push({ open: (await load('/sixty/open', 3)).ms, gated: (await load('/sixty/gated', 3)).ms })
    const of = (key: 'open' | 'gated') => parts.reduce((total, round) => total + round[key], 0) / parts.length
    console.log(
      `  60 parts ${of('open').toFixed(1)} ms · each behind a gate ${of('gated').toFixed(1)} ms · ratio ${(of('gated') / of('open')).toFixed(2)} (aim: under 1.3)`,
    )
  } finally {
    server.kill()
  }
}

/** Two pages of sixty parts each, told apart only by the gates before the parts of one: all of them open to Makers. */
async function manyParts(address: string): Promise<void> {
  const headers = { 'content-type': 'application/json' }
  const post = async (path: string, body: object, cookie = '', method = 'POST') => {
    const answer = await fetch(address + path, { method, headers: { ...headers, cookie }, body: JSON.stringify(body) })
    if (!answer.ok) throw new Error(`${method} ${path} answered ${answer.status}: ${await answer.text()}`)
    return answer
  }
  const entered = await post('/api/session', { email: 'ines@wexlow.example', password: 'wexlow-demo' })
  const cookie = entered.headers.getSetCookie()[0]!.split(';')[0]!
  const opens = [
    { level: { atLeast: 'maker' } },
    { level: { in: ['maker', 'guild'] } },
    { signedIn: true },
    { any: [{ role: { anyOf: ['stockist'] } }, { level: { atLeast: 'friend' } }] },
    { not: { role: { anyOf: ['stockist'] } } },
    { all: [{ signedIn: true }, { not: { country: { in: ['DE'] } } }, { level: { atLeast: 'friend' } }] },
  ]
  for (const page of ['open', 'gated']) {
    await post('/api/loft/things/page', { id: `sixty-${page}`, title: 'Sixty parts', path: `/sixty/${page}` }, cookie)
    for (let i = 0; i < 60; i++) {
      const id = `sixty-${page}-${i}`
      const body = { markdown: `Part **${i}**: cast on a tenth fewer stitches than the body needs, then raise them.` }
      await post('/api/loft/things/block', { id, kind: 'text', in: { page: `sixty-${page}` }, body }, cookie)
      const gate = { id, on: { block: id }, open: opens[i % opens.length] }
      if (page === 'gated') await post(`/api/loft/entries/gate/${id}`, { body: gate, expects: null }, cookie, 'PUT')
    }
  }
  await post('/api/loft/publish', { note: 'Sixty parts', expects: 1 }, cookie)
}

if (process.argv[2] === 'large') {
  await benchLarge(process.env.DATABASE_URL!)
} else if (process.argv[2] === 'prices') {
  if (process.argv[3] !== 'file') benchPrices()
  await benchGoodsFile(process.env.DATABASE_URL!)
} else if (process.argv[2] === 'orders') {
  await benchOrders(process.env.DATABASE_URL!)
} else if (process.argv[2] === 'site') {
  await benchSite(process.env.DATABASE_URL!)
} else if (process.argv[2] === 'fetch') {
  await benchFetch(process.env.DATABASE_URL!)
} else if (process.argv[2] === 'kept') {
  await benchKept(process.env.DATABASE_URL!)
} else if (process.argv[2] === 'find') {
  await benchFind(process.env.DATABASE_URL!)
} else {
  decisions()
  board()
  await pages()
  await benchPeople(process.env.DATABASE_URL!)
}
