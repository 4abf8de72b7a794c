/** Prices: the board of a large shop, what an edit costs, one price with its trail, and a shelf for every tier. */
import { generatedOffers, generatedShop, generatedTax } from '../demo/generators'
import { pricesBoard } from '../core/audit/prices-board'
import { taxBoard } from '../core/audit/tax-board'
import { taxImpact } from '../core/audit/tax-impact'
import { CompiledRules } from '../core/gates/compiled'
import { CompiledDecider } from '../core/gates/compiled-decider'
import { RuleSet } from '../core/gates/rule-set'
import { offersOf } from '../core/shop/compiled-offers'
import { PlainPricing } from '../core/shop/plain-pricing'
import { Pricer } from '../core/shop/pricer'
import { Shelves, shelfSorts } from '../core/shop/shelf'
import { PlainTax } from '../core/tax/plain-tax'
import { Taxer } from '../core/tax/taxer'
import { SiteIndex } from '../core/site/site-index'
import { serve, signedInAt } from './serving.mjs'
import { prepare } from './steps.mjs'

const nowMs = Date.parse('2026-11-24T10:00:00Z')
const things = 100_000
const categories = 500

function timed<T>(work: () => T): [T, number] {
  const start = performance.now()
  const result = work()
  return [result, performance.now() - start]
}
/** Microseconds of one of many. */
function each(times: number, work: (i: number) => unknown): number {
  for (let i = 0; i < times / 4; i++) work(i)
  const [, ms] = timed(() => {
    for (let i = 0; i < times; i++) work(i)
  })
  return (ms * 1000) / times
}

export function benchPrices(): void {
  const { book, site, tiers } = generatedShop({ things, categories, tiers: 40 })
  const offers = generatedOffers(500, categories)
  const index = new SiteIndex(site)
  const whole = { ...book, offers, tiers: [] }
  const rules = new CompiledRules(whole, index)
  const [board, firstMs] = timed(() => pricesBoard(rules, tiers, { nowMs }))
  const [, ms] = timed(() => pricesBoard(new CompiledRules(whole, index, rules), tiers, { nowMs }))
  const edits = [1, 100, 137].map(i => {
    const edited = offers.map((offer, at) =>
      at === i ? { ...offer, bands: [{ off: { percent: 33 } }], by: undefined } : offer,
    )
    const edit = () => new CompiledRules({ ...whole, offers: edited as never }, index, rules)
    const runs = Array.from({ length: 5 }, () => {
      const [, seen] = timed(() => seenCells(edit(), tiers))
      const [after, took] = timed(() => pricesBoard(edit(), tiers, { nowMs }, board))
      return { seen, took, worked: after.worked }
    })
    const middle = (of: 'seen' | 'took') => runs.map(one => one[of]).sort((a, b) => a - b)[2]!
    return { took: middle('took'), seen: middle('seen'), worked: runs[0]!.worked }
  })
  console.log(
    `prices board, ${things.toLocaleString('en')} products by ${tiers.length} tiers, ${offers.length} offers, ${categories} gated categories:`,
  )
  console.log(`  first ${firstMs.toFixed(0)} ms, with the goods read ${ms.toFixed(0)} ms (aim: under 2,000)`)
  console.log(
    `  after an edit of an offer: ${edits.map(({ took, worked }) => `${took.toFixed(0)} ms for ${worked.toLocaleString('en')} products`).join(', ')} (aim: under 100)`,
  )
  console.log(
    `  of the same edits what is seen, 24 products for all tiers: ${edits.map(({ seen }) => `${seen.toFixed(0)} ms`).join(', ')} (aim: under 100)`,
  )
  onePrice(whole as never, index, tiers[3]!.visitor, rules)
  shelves(rules, tiers)
  taxes(whole as never, index, tiers)
}

/** A basket with its taxes, and what every tier is taxed everywhere. */
function taxes(
  book: ConstructorParameters<typeof CompiledRules>[0],
  index: SiteIndex,
  tiers: ReturnType<typeof generatedShop>['tiers'],
): void {
  const ids = [...index.all('product').keys()]
  const lines = Array.from({ length: 50 }, (_, i) => ({ product: ids[i * 37]!, quantity: 1 + (i % 12) }))
  const rules = new CompiledRules({ ...book, tax: generatedTax(100, 2, 40) }, index)
  const ask = { lines, sentTo: { country: 'AB' }, delivery: 500 }
  const basket = each(2000, i =>
    new Taxer(new CompiledDecider(rules, tiers[i % tiers.length]!.visitor, nowMs)).basket(ask),
  )
  const visitor = tiers[3]!.visitor
  const [plain] = [0, 1].map(
    () => timed(() => new PlainTax(new RuleSet(rules.rulebook, index), visitor, nowMs).basket(ask))[1],
  )
  console.log(
    `  a basket of ${lines.length} lines under ${book.offers!.length} offers and ${rules.rulebook.tax!.rates!.length} rates: ${basket.toFixed(0)} µs, plain ${(plain! * 1000).toFixed(0)} µs, ratio ${((plain! * 1000) / basket).toFixed(0)} (aim: under 1,000 µs)`,
  )
  const wide = () => new CompiledRules({ ...book, tax: generatedTax(250, 10, 400) }, index)
  const runs = Array.from({ length: 5 }, () => {
    const made = wide()
    return timed(() => taxBoard(made, tiers, { nowMs }))[1]
  })
  console.log(
    `  tax board, 250 destinations by 10 categories for ${tiers.length} tiers: ${runs[0]!.toFixed(0)} ms first, ${runs.toSorted((a, b) => a - b)[2]!.toFixed(0)} ms in the middle (aim: under 200)`,
  )
  const [before, dearer] = [wide(), wide()].map((made, i) => {
    if (!i) return made
    const { tax } = made.rulebook
    const rates = tax!.rates!.map((rate, at) => (at % 7 ? rate : { ...rate, percent: '31' }))
    return new CompiledRules({ ...made.rulebook, tax: { ...tax, rates } }, index)
  })
  const [impact, took] = timed(() => taxImpact(before!, dearer!, tiers, { nowMs }))
  console.log(
    `  what a seventh of its rates changed does to taxes: ${took.toFixed(0)} ms, ${impact.moved.toLocaleString('en')} cases move, ratio to the board ${(took / runs[0]!).toFixed(1)}`,
  )
}

/** What the board shows at once after an edit, before all of it is worked out. */
function seenCells(rules: CompiledRules, tiers: ReturnType<typeof generatedShop>['tiers']): number {
  const ids = [...rules.index.all('product').keys()].slice(0, 24)
  const pricers = tiers.map(tier => new Pricer(new CompiledDecider(rules, tier.visitor, nowMs)))
  return ids.reduce((sum, id) => sum + pricers.reduce((all, one) => all + one.quick(id)!.unit, 0), 0)
}

function onePrice(
  book: ConstructorParameters<typeof RuleSet>[0],
  index: SiteIndex,
  visitor: Parameters<typeof shelfTimes>[1],
  rules: CompiledRules,
): void {
  const ids = [...index.all('product').keys()].slice(0, 2000)
  const pricer = new Pricer(new CompiledDecider(rules, visitor, nowMs))
  const compiled = each(40_000, i => pricer.price(ids[i % ids.length]!))
  const plain = new PlainPricing(new RuleSet(book, index), visitor, nowMs)
  const slow = each(400, i => plain.price(ids[i % ids.length]!))
  const steps = ids.reduce((all, id) => all + pricer.price(id)!.steps.length, 0) / ids.length
  console.log(
    `  one price with its trail of ${steps.toFixed(1)} offers: compiled ${compiled.toFixed(2)} µs, plain ${slow.toFixed(0)} µs, ratio ${(slow / compiled).toFixed(0)} (aims: under 5 µs, at least 20)`,
  )
}

function shelves(rules: CompiledRules, tiers: readonly { visitor: Parameters<typeof shelfTimes>[1] }[]): void {
  offersOf(rules)
  const times = tiers.flatMap(({ visitor }) => shelfTimes(rules, visitor)).sort((a, b) => a - b)
  const at = (part: number) => times[Math.min(times.length - 1, Math.floor(times.length * part))]!.toFixed(0)
  console.log(
    `  a shelf of all goods for each tier, in every order: ${at(0.5)} ms in the middle, ${at(0.95)} at the 95th percentile, ${at(1)} at most (aim: under 50)`,
  )
}

function shelfTimes(rules: CompiledRules, visitor: ConstructorParameters<typeof CompiledDecider>[1]): number[] {
  const decider = new CompiledDecider(rules, visitor, nowMs)
  decider.watch()
  return shelfSorts.map(sort => {
    const shelves = new Shelves(decider, new Pricer(decider))
    return timed(() => shelves.shelf({ sort, only: {}, page: 1, perPage: 24 }))[1]
  })
}

/** A hundred thousand goods from a file: looked at, then taken into the draft, while a page is asked for. */
export async function benchGoodsFile(databaseUrl: string): Promise<void> {
  prepare(databaseUrl)
  const server = await serve(databaseUrl)
  try {
    const cookie = await signedInAt(server.url, 'ines')
    const lines = Array.from(
      { length: things },
      (_, i) =>
        `many-${i},Skein ${i},yarn,${((i % 900) + 100) / 100},EUR,/shop/many/${i},Summary of skein ${i},${i % 50}`,
    )
    const body = ['id,title,categories,price,currency,address,summary,stock', ...lines].join('\n')
    const send = async (query: string) => {
      const start = performance.now()
      const answer = await fetch(`${server.url}/api/loft/products/import${query}`, {
        method: 'POST',
        headers: { cookie, 'content-type': 'text/csv' },
        body,
      })
      const told = (await answer.json()) as { added?: number; problems?: unknown[] }
      if (told.added !== things) throw new Error(`${answer.status} ${JSON.stringify(told).slice(0, 300)}`)
      return performance.now() - start
    }
    const dry = await send('?dry=1')
    let longest = 0
    let isDone = false
    const asking = (async () => {
      while (!isDone) {
        const start = performance.now()
        await (await fetch(`${server.url}/shop`)).text()
        longest = Math.max(longest, performance.now() - start)
        await new Promise(resolve => setTimeout(resolve, 100))
      }
    })()
    const real = await send('')
    isDone = true
    await asking
    console.log(
      `${things.toLocaleString('en')} goods from a file of ${(body.length / 1_048_576).toFixed(0)} MB: looked at in ${(dry / 1000).toFixed(1)} s, in the draft in ${(real / 1000).toFixed(1)} s (aim: under 60); a page meanwhile waits ${longest.toFixed(0)} ms at most`,
    )
  } finally {
    server.kill()
  }
}
