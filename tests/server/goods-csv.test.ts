import { eq } from 'drizzle-orm'
import { parse } from 'csv-parse/sync'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { stock, version } from '../../server/db/schema'
import type { Connection } from '../../server/db/database'
import { exportGoods, importGoods, planGoods } from '../../server/services/shop/goods-csv'
import type { Worker } from '../../server/services/live/worker'
import type { StaffRule } from '../../core/staff/staff-rule'
import { freshDatabase } from '../support/database'
import { contentsOf, ines, keeperOf, liveRules, snapshotOf } from '../support/world'

let site: Connection & { url: string }
let keeper: Worker
beforeAll(async () => {
  site = await freshDatabase('demo')
  keeper = keeperOf(await liveRules(site))
})
afterAll(() => site.close())

const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'done',
    (error: { code?: string }) => error.code,
  )
const file = (...lines: string[]) => lines.join('\n')
const take = (csv: string, worker = keeper) => importGoods(site.db, async () => worker, csv, ines)
const look = (csv: string) => planGoods(site.db, keeper, csv)
const told = async (csv: string) =>
  (await look(csv)).problems.map(({ line, column, message }) => [line, column, message])
const product = async (id: string) => (await contentsOf(site)).index.get('product', id)

describe('goods from a file', () => {
  it('come into the draft as one change, variants with them; what is left out stays, what is empty goes', async () => {
    const csv = file(
      'id,of,title,categories,options,address,price,currency,sale,sale from,sale until,summary,stock,cost',
      'shed-wool,,Shed wool,yarn; tools,,/shop/goods/shed-wool,12.50,EUR,10,2026-12-01,2026-12-24,"Combed, and clean",40,5.10',
      'shed-wool-grey,shed-wool,"Shed wool, grey",,colour: grey; size: 100 g,,13,,,,,,7,',
    )
    expect(await look(csv)).toEqual({ added: 2, changed: 0, same: 0, counted: 2, problems: [] })
    expect(await product('shed-wool')).toBeUndefined()
    expect(await take(csv)).toMatchObject({ added: 2, problems: [] })
    expect(await product('shed-wool')).toMatchObject({
      categories: ['yarn', 'tools'],
      price: 1250,
      sale: { price: 1000, from: '2026-12-01', until: '2026-12-24' },
      path: '/shop/goods/shed-wool',
    })
    expect(await product('shed-wool-grey')).toMatchObject({
      of: 'shed-wool',
      options: { colour: 'grey', size: '100 g' },
      price: 1300,
    })
    const [row] = await site.db.select().from(stock).where(eq(stock.product, 'shed-wool'))
    expect(row).toMatchObject({ pieces: 40, cost: 510 })
    // Nothing of it is live.
    expect((await liveRules(site)).index.has('product', 'shed-wool')).toBe(false)

    expect(await take(file('id,price,sale', 'shed-wool,14,', 'fell-dk,6.90,'))).toMatchObject({ changed: 1, same: 1 })
    expect(await product('shed-wool')).toEqual(expect.not.objectContaining({ sale: expect.anything() }))
    expect(await product('shed-wool')).toMatchObject({ price: 1400, title: 'Shed wool' })
    expect((await site.db.select().from(stock).where(eq(stock.product, 'shed-wool')))[0]).toMatchObject({ pieces: 40 })
  })

  it('are what was written out before: taken in again, nothing changes', async () => {
    const csv = await exportGoods(site.db, keeper)
    expect(parse(csv, { columns: true })).toContainEqual(
      expect.objectContaining({
        id: 'tarn-lace-100-g-mist',
        of: 'tarn-lace',
        options: 'size: 100 g; colour: mist',
        price: '17.90',
        sale: '15.90',
      }),
    )
    const { added, changed, problems } = await look(csv)
    expect({ added, changed, problems }).toEqual({ added: 0, changed: 0, problems: [] })
  })

  it('say how they are taxed and sent, and what they give', async () => {
    const csv = file(
      'id,title,price,taxed,delivery taxed,weight,sent,gives level,gives roles',
      'maker-month,A month as Maker,6,yes,no,,no,maker,islander; test-knitter',
      'heavy-wool,Heavy wool,60,,,2500,,,',
    )
    expect(await take(csv)).toMatchObject({ added: 2, problems: [] })
    expect(await product('maker-month')).toMatchObject({
      goodsTaxed: true,
      deliveryTaxed: false,
      sent: false,
      gives: { level: 'maker', roles: ['islander', 'test-knitter'] },
    })
    expect(await product('heavy-wool')).toEqual(expect.not.objectContaining({ sent: expect.anything() }))
    // One of two columns leaves the other as it is, and both empty take it away.
    expect(await take(file('id,gives roles', 'maker-month,'))).toMatchObject({ changed: 1 })
    expect(await product('maker-month')).toMatchObject({ gives: { level: 'maker' } })
    expect(await take(file('id,gives level', 'maker-month,'))).toMatchObject({ changed: 1 })
    expect(await product('maker-month')).toEqual(expect.not.objectContaining({ gives: expect.anything() }))
    const wrong = file(
      'id,title,price,taxed,weight,gives level,gives roles',
      'w1,A,1,perhaps,1.5,,',
      'w2,A,1,,2000000,,',
    )
    expect(await told(wrong)).toEqual([
      [2, 'taxed', '“perhaps” is neither yes nor no.'],
      [2, 'weight', '“1.5” is no whole number from 0 to 1000000.'],
      [3, 'weight', '“2000000” is no whole number from 0 to 1000000.'],
    ])
    expect(await told(file('id,title,price,gives level,gives roles', 'w1,A,1,elder,keeper; nobody'))).toEqual([
      [2, 'gives level', 'There is no level “elder”.'],
      [2, 'gives roles', '“keeper” is a role of the staff: nobody buys it.'],
      [2, 'gives roles', 'There is no role “nobody”.'],
    ])
  })

  it('tell what is wrong with its line and column, and take over none of it', async () => {
    const before = await site.db.$count(version)
    expect(
      await told(
        file(
          'id,of,title,categories,price,currency,sale,sale from,sale until,options,address,stock',
          'Bad Id,,A,,1,EUR,,,,,,',
          'a1,,,yarn,-5,EUR,,,,,,',
          'a2,,A,cheese,1e9,USD,,,,,,',
          'a3,,A,yarn,NaN,EUR,x,soon,,,,-1',
          'a4,fell-dk-madder,A,,1,EUR,,,,,,',
          'a5,nothing,A,,1,EUR,,,,,,',
          'a6,a6,A,,1,EUR,,,,,,',
          'a7,,A,yarn,2,EUR,1,2026-12-24,2026-12-01,,,',
          'a8,,A,yarn,2,EUR,,,,colour: red,/shop/yarn,',
          'a8,,A,yarn,2,EUR,,,,red,,',
        ),
      ),
    ).toEqual(
      expect.arrayContaining([
        [2, 'id', '“Bad Id” is no id: small letters, digits and dashes.'],
        [3, 'price', '“-5” is no amount in EUR.'],
        [4, 'currency', 'This site sells in EUR, not in USD.'],
        [4, 'price', '“1e9” is no amount in EUR.'],
        [5, 'price', '“NaN” is no amount in EUR.'],
        [5, 'sale from', '“soon” is no day such as 2026-11-24.'],
        [5, 'stock', '“-1” is no whole number from 0 to 1000000.'],
        [11, 'id', 'The same id stands in line 10.'],
        [11, 'options', '“red” is written as colour: moss.'],
      ]),
    )
    const second = await told(
      file(
        'id,of,title,categories,price,sale,sale from,sale until,options,address',
        'a1,,,yarn,5,,,,,',
        'a2,,A,cheese,1,,,,,',
        'a4,fell-dk-madder,A,,1,,,,,',
        'a5,nothing,A,,1,,,,,',
        'a6,a6,A,,1,,,,,',
        'a7,,A,yarn,2,1,2026-12-24,2026-12-01,,',
        'a8,,A,yarn,2,,,,colour: red,/shop/yarn',
      ),
    )
    expect(second).toEqual([
      [2, 'title', 'A new product has a title.'],
      [3, 'categories', 'There is no category “cheese”.'],
      [4, 'of', '“fell-dk-madder” is a variant itself: a variant is of a product.'],
      [5, 'of', 'There is no product “nothing”.'],
      [6, 'of', 'A product is no variant of itself.'],
      [7, 'sale until', 'The sale ends before it begins.'],
      [8, 'options', 'Only a variant says what tells it apart.'],
      [8, 'address', '/shop/yarn is the address of something else.'],
    ])
    expect((await take(file('id,title,price', 'b1,B,1', 'b2,B,x'))).problems).toHaveLength(1)
    expect(await site.db.$count(version)).toBe(before)
    expect(await told(file('id,colour', 'a,b'))).toEqual([[1, 'colour', expect.stringContaining('There is no column')]])
    expect(await told('')).toEqual([[1, undefined, expect.stringContaining('The file holds no goods')]])
  })

  it('of a megabyte with one wrong currency names that line alone', async () => {
    const lines = Array.from(
      { length: 20_000 },
      (_, i) => `m${i},Skein ${i},yarn,${(i % 90) + 1}.50,${i === 17_000 ? 'GBP' : 'EUR'}`,
    )
    const csv = file('id,title,categories,price,currency', ...lines)
    expect(csv.length).toBeGreaterThan(600_000)
    expect(await told(csv)).toEqual([[17_002, 'currency', 'This site sells in EUR, not in GBP.']])
  })

  it('are taken over only where every part of it may be changed, by whoever brings them', async () => {
    const rules = (...more: Pick<StaffRule, 'kind' | 'actions'>[]): Worker => ({
      rights: {
        personId: 'p-oona',
        masterKey: false,
        rules: more.map(one => ({ role: 'hand', whose: 'anyone' as const, ...one })),
      },
      snapshot: snapshotOf(keeper.snapshot.rules),
    })
    const pricing = rules({ kind: 'prices', actions: ['look', 'change'] })
    expect(await codeOf(take(file('id,title', 'niddy-noddy,Niddy'), pricing))).toBe('not-allowed')
    expect(await codeOf(take(file('id,price,stock', 'niddy-noddy,33,4'), pricing))).toBe('not-allowed')
    expect(await codeOf(take(file('id,title,price', 'fresh-one,Fresh,3'), pricing))).toBe('not-allowed')
    // Who decides what something gives decides about levels.
    expect(await codeOf(take(file('id,gives level', 'niddy-noddy,guild'), pricing))).toBe('not-allowed')
    expect(await take(file('id,price', 'niddy-noddy,33'), pricing)).toMatchObject({ changed: 1 })
    expect(await product('niddy-noddy')).toMatchObject({ price: 3300 })
    // What may not be looked at is not written out either.
    const csv = await exportGoods(site.db, rules({ kind: 'products', actions: ['look'] }))
    const [header] = csv.split('\n')
    expect([header!.includes('cost'), header!.includes('stock')]).toEqual([false, false])
    expect(parse(csv, { columns: true })).toContainEqual(expect.objectContaining({ id: 'niddy-noddy', price: '' }))
  })
})
