import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { randomUUID } from 'node:crypto'
import type { StaffRule } from '../../core/staff/staff-rule'
import { version } from '../../server/db/schema'
import type { Connection } from '../../server/db/database'
import type { Worker } from '../../server/services/live/worker'
import { importGoods } from '../../server/services/shop/goods-csv'
import { changeGoods, goodsTogether } from '../../server/services/shop/many-goods'
import { letGo, reserve, stockOf, toReserve } from '../../server/services/shop/reserved'
import type { ToReserve } from '../../server/services/shop/reserved'
import { changeStock, countGoods } from '../../server/services/shop/stock'
import { freshDatabase } from '../support/database'
import { contentsOf, ines, keeperOf, liveRules, snapshotOf } from '../support/world'

let site: Connection & { url: string }
let keeper: Worker
let hand: Worker
beforeAll(async () => {
  site = await freshDatabase('demo')
  const rules = await liveRules(site)
  keeper = keeperOf(rules)
  const held: StaffRule[] = [{ role: 'shop-hand', kind: 'stock', actions: ['look', 'change'], whose: 'anyone' }]
  hand = { rights: { personId: 'p-oona', masterKey: false, rules: held }, snapshot: snapshotOf(rules) }
})
afterAll(() => site.close())

const reasonOf = (work: Promise<unknown>) =>
  work.then(
    () => 'done',
    (error: { reason?: string; code?: string }) => error.reason ?? error.code,
  )
const lot = 'reserve-7'
const count = (pieces: number, was?: number, id = lot) =>
  changeStock(site.db, keeper, id, { stock: pieces, ...(was === undefined ? {} : { was }) }, ines)
const putAside = (given: Omit<ToReserve, 'request'> & { request?: string }, worker = keeper) =>
  site.db.transaction(tx => reserve(tx, worker, lot, toReserve.parse({ request: randomUUID(), ...given }), ines))
const told = (worker = keeper) => stockOf(site.db, worker, lot)

describe('what is in store', () => {
  it('is put aside for somebody, no more than is free, however many ask at once', async () => {
    await count(5)
    await putAside({ pieces: 2, firm: 'gullhaven', note: 'spring' })
    const answers = await Promise.all([2, 2, 2].map(pieces => reasonOf(putAside({ pieces, person: 'p-guda' }))))
    expect(answers.sort()).toEqual(['done', 'not-enough-free', 'not-enough-free'])
    expect(await told()).toMatchObject({ pieces: 5, reserved: 4, free: 1 })
    // Asked twice under one name, once.
    const request = randomUUID()
    await Promise.all([1, 2].map(() => putAside({ pieces: 1, request })))
    expect(await told()).toMatchObject({ reserved: 5, free: 0 })
    expect((await countGoods(site.db, keeper)).reserved![lot]).toBe(5)
    const { holds } = await told()
    expect(holds[0]).toMatchObject({ for: { kind: 'firm', name: 'Gullhaven Knits' }, note: 'spring' })
    await site.db.transaction(tx => letGo(tx, keeper, lot, holds[0]!.id, ines))
    expect(await told()).toMatchObject({ reserved: 3, free: 2 })
    expect(await reasonOf(site.db.transaction(tx => letGo(tx, keeper, lot, holds[0]!.id, ines)))).toBe('not-found')
  })

  it('is free again when its time is over, and shows where more is put aside than there is', async () => {
    const before = (await told()).reserved
    await putAside({ pieces: 1, until: new Date(Date.now() + 700).toISOString() })
    expect((await told()).reserved).toBe(before + 1)
    await expect.poll(async () => (await told()).reserved).toBe(before)
    expect(await reasonOf(putAside({ pieces: 1, until: '2020-01-01T00:00:00Z' }))).toBe('end-is-past')
    await count(1)
    expect(await told()).toMatchObject({ pieces: 1, reserved: 3, free: -2 })
  })

  it('keeps how its count moved, also from a file, and a count made of an older one is refused', async () => {
    await count(8, 1)
    expect(await reasonOf(count(7, 1))).toBe('stock-moved')
    await importGoods(site.db, async () => keeper, `id,stock\n${lot},12\n`, ines)
    expect((await told()).moves.slice(0, 2)).toMatchObject([
      { before: 8, after: 12, how: 'import', who: 'Ines Varga' },
      { before: 1, after: 8, how: 'counted' },
    ])
  })

  it('takes its own right, and names nobody to whom people are not shown', async () => {
    await putAside({ pieces: 1 }, hand)
    expect((await told(hand)).holds.map(one => one.for)).toEqual(expect.not.arrayContaining([expect.anything()]))
    const nobody = { ...hand, rights: { ...hand.rights, rules: [] } }
    expect(await reasonOf(putAside({ pieces: 1 }, nobody))).toBe('right-missing')
    for (const bad of [{ pieces: 0 }, { pieces: 1.5 }, { pieces: -3 }, { pieces: 1, person: 'a', firm: 'b' }])
      expect(toReserve.safeParse({ ...bad, request: randomUUID() }).success).toBe(false)
    expect(await reasonOf(putAside({ pieces: 1, person: 'p-none' }))).toBe('no-such-person')
  })
})

describe('many goods together', () => {
  const expects = async (id: string) => {
    const { id: row, revision } = (await contentsOf(site)).get('product', id)!
    return { id: row, revision }
  }
  const parse = (products: unknown) => goodsTogether.parse({ products })
  const change = (products: unknown, worker = keeper) => reasonOf(changeGoods(site.db, worker, parse(products), ines))
  const product = async (id: string) => (await contentsOf(site)).index.get('product', id)

  it('become one change of the draft, or none of them does', async () => {
    const [one, other] = [await expects('fell-dk'), await expects('niddy-noddy')]
    const both = [
      { id: 'fell-dk', expects: one, parts: { price: 725, sale: { price: 600, until: '2027-01-31' } } },
      { id: 'niddy-noddy', expects: other, parts: { categories: ['tools', 'kits'], taxCategory: 'reduced' } },
    ]
    expect(await change([both[0], { ...both[1], parts: { categories: ['no-such'] } }])).toBe('does-not-fit')
    expect(await product('fell-dk')).toMatchObject({ price: 690 })
    expect(await change(both)).toBe('done')
    expect([await product('fell-dk'), await product('niddy-noddy')]).toMatchObject([
      { price: 725, sale: { price: 600, until: '2027-01-31' } },
      { categories: ['tools', 'kits'], taxCategory: 'reduced' },
    ])
    // Its words and pictures are as they were; sent twice, nothing is changed twice.
    expect(await site.db.$count(version, eq(version.key, 'fell-dk'))).toBe(2)
    expect(await change(both)).toBe('changed-by')
    expect(await change([{ id: 'fell-dk', expects: await expects('fell-dk'), parts: { sale: null } }])).toBe('done')
    expect(await product('fell-dk')).not.toHaveProperty('sale')
  })

  it('takes the right to each part, and refuses what is no price', async () => {
    const asked = [{ id: 'lucet', expects: await expects('lucet'), parts: { price: 1 } }]
    expect(await change(asked, hand)).toBe('right-missing')
    expect(await change([{ ...asked[0], id: 'nothing' }])).toBe('no-such-product')
    for (const price of [-1, 1.5, 1e12, Number.NaN, '12'])
      expect(goodsTogether.safeParse({ products: [{ ...asked[0], parts: { price } }] }).success).toBe(false)
  })
})
