/** Ordering and what follows: paid once and by the sum that was seen, stock that is never sold twice, money back to nothing. */
import { randomUUID } from 'node:crypto'
import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { CompiledRules } from '../../core/gates/compiled'
import { quoteBasket } from '../../core/orders/basket-quote'
import type { Rulebook } from '../../core/rulebook/rulebook'
import type { Condition } from '../../core/conditions/condition'
import { SiteIndex } from '../../core/site/site-index'
import { isTaxed } from '../../core/tax/tax-trail'
import type { Visitor } from '../../core/visitor/visitor'
import { connect } from '../../server/db/database'
import type { Connection } from '../../server/db/database'
import {
  codeUse,
  invoice,
  mailOut,
  moneyBack,
  noticeDue,
  person,
  shopOrder,
  stock,
  stockReserved,
} from '../../server/db/schema'
import { readEnvironmentAnew } from '../../server/environment'
import { Problem } from '../../server/problem'
import { basketOf, bringBasket, changeBasket } from '../../server/services/orders/baskets'
import { basketFromCookie, basketToCookie } from '../../server/services/orders/guest-basket'
import { freeOf, keepNoMoreThan, keepStock, mostKept } from '../../server/services/orders/held-stock'
import type { Keeper } from '../../server/services/orders/held-stock'
import { countTyped, merged, withCount, withMore } from '../../server/services/orders/lines'
import type { KeptLine } from '../../server/services/orders/lines'
import { invoicesOf } from '../../server/services/papers/invoices'
import { invoicePdf } from '../../server/services/papers/invoice-pdf'
import { invoiceUbl } from '../../server/services/papers/invoice-ubl'
import { backToBasket, giveUpUnpaid, placeOrder } from '../../server/services/orders/place'
import type { OrderRow } from '../../server/services/papers/order-row'
import { giveBack, toRefund } from '../../server/services/orders/refunds'
import type { ToRefund } from '../../server/services/orders/refunds'
import { readGift, takeGift } from '../../server/services/orders/gifts'
import { adoptOrders, takeOrderNotice } from '../../server/services/orders/settle'
import type { TakenNotice } from '../../server/services/payments/ledger'
import { chooseDelivery, saveTill, tillName } from '../../server/services/orders/tills'
import type { TillHolder } from '../../server/services/orders/tills'
import { orderWorld } from '../../server/services/orders/world'
import { sumsOf } from '../../server/services/payments/ledger'
import { giveBackBesides, listMatters } from '../../server/services/payments/matters'
import { giveCode } from '../../server/services/shop/given-codes'
import { visitorOf } from '../../server/services/standing/visitor-of'
import { newId } from '../../server/services/secrets/tokens'
import { englishWords } from '../../core/site-words/site-words'
import { freshDatabase } from '../support/database'
import { ines, liveRules, snapshotOf } from '../support/world'

let site: Connection & { url: string }
/** Enough lines that nobody waits for another's. */
let many: Connection
let rules: CompiledRules
beforeAll(async () => {
  site = await freshDatabase('demo')
  many = connect(site.url, 20)
  rules = await liveRules(site)
})
afterAll(async () => {
  await many.close()
  await site.close()
})

const where = {
  name: 'Una Best',
  email: 'una@elsewhere.example',
  lines: '3 Quay Row',
  town: 'Wexlow',
  postcode: 'WX1',
  country: 'IE',
  note: '',
}
const line = (product: string, quantity = 1): KeptLine => ({ product, quantity, seen: null })
let people = 0
async function newPerson(): Promise<string> {
  const id = `p-buyer-${++people}`
  const now = new Date()
  await site.db
    .insert(person)
    .values({ id, name: id, email: `${id}@orders.example`, createdAt: now, confirmedAt: now, approvedAt: now })
  return id
}
const guest = (): TillHolder => ({ guest: newId('g', 20) })

interface Buying {
  holder?: TillHolder
  lines: KeptLine[]
  /** Default: what it comes to. */ agreed?: number
  delivery?: string
  gift?: string
  sentTo?: Partial<typeof where>
  under?: CompiledRules
  db?: Connection['db']
  keeper?: Keeper
  /** Said at the till already. */ again?: boolean
}
async function visitorAt(holder: TillHolder, lines: readonly KeptLine[] = []): Promise<Visitor> {
  if ('person' in holder) return (await visitorOf(site.db, holder.person))!
  return { person: null, basket: lines.map(({ product, quantity }) => ({ product, quantity })) }
}
async function grossOf({ holder = guest(), lines, delivery = 'post', sentTo, under = rules }: Buying): Promise<number> {
  const decider = new CompiledDecider(under, await visitorAt(holder, lines), Date.now())
  const asked = lines.map(({ product, quantity }) => ({ product, quantity }))
  return quoteBasket(decider, { lines: asked, sentTo: { ...where, ...sentTo }, delivery, when: 'pay' }).basket.gross
}
/** Everything somebody does at the till, up to placing it. */
async function place(buying: Buying): Promise<OrderRow> {
  const { holder = guest(), lines, under = rules, db = site.db, delivery = 'post', gift, again } = buying
  const agreed = buying.agreed ?? (await grossOf({ ...buying, holder }))
  if ('person' in holder && !again) await changeBasket(db, holder.person, () => lines)
  if (!again) {
    await db.transaction(tx => saveTill(tx, holder, { ...where, ...buying.sentTo, ...(gift ? { gift } : {}) }))
    await chooseDelivery(db as never, holder, delivery)
  }
  const { order } = await placeOrder(db, {
    snapshot: snapshotOf(under),
    world: orderWorld(snapshotOf(under)),
    holder,
    ...(buying.keeper ? { keeper: buying.keeper } : {}),
    guestLines: lines,
    agreed,
    deciderOf: known =>
      new CompiledDecider(
        under,
        known ?? { person: null, basket: lines.map(({ product, quantity }) => ({ product, quantity })) },
        Date.now(),
      ),
  })
  return order
}
const reasonOf = (work: Promise<unknown>) =>
  work.then(
    () => 'none',
    (error: unknown) => (error instanceof Problem ? (error.reason ?? error.code) : String(error)),
  )
const world = () => orderWorld(snapshotOf(rules))
const notice = (order: OrderRow, more: Partial<TakenNotice> = {}) =>
  takeOrderNotice(site.db, world(), {
    id: newId('notice', 16),
    reference: order.reference,
    kind: 'paid',
    amount: order.gross,
    ...more,
  })
const orderNow = async ({ id }: OrderRow) => (await site.db.select().from(shopOrder).where(eq(shopOrder.id, id)))[0]!
const bought = async (buying: Buying) => {
  const order = await place(buying)
  await notice(order)
  return orderNow(order)
}
const pieces = async (product: string) =>
  (await site.db.select().from(stock).where(eq(stock.product, product)))[0]!.pieces
const setPieces = (product: string, count: number) =>
  site.db.update(stock).set({ pieces: count }).where(eq(stock.product, product))
const matters = () => listMatters(site.db, { rights: { personId: 'ines', masterKey: true, rules: [] } } as never)
/** Lets the provider tell what was asked back; answers the sums. */
async function hearBack(order: OrderRow): Promise<(number | null)[]> {
  const due = await site.db.delete(noticeDue).where(eq(noticeDue.reference, order.reference)).returning()
  for (const { id, kind, amount, refund: of } of due)
    await takeOrderNotice(site.db, world(), { id, reference: order.reference, kind, amount: amount!, refund: of! })
  return due.map(one => one.amount)
}
/** Asks for money back, and lets the provider tell that it is given. */
async function refund(order: OrderRow, asked: Omit<ToRefund, 'request'> & { request?: string } = {}) {
  const ask = toRefund.parse({ request: randomUUID(), ...asked })
  const done = await site.db.transaction(tx => giveBack(tx, order.number, ask, ines))
  await hearBack(order)
  return done
}
const admits = async (id: string, condition: Condition) =>
  new CompiledDecider(rules, (await visitorOf(site.db, id))!, Date.now()).admits(condition)

describe('what lies in a basket', () => {
  it('is a whole number that can be bought, of so many things at most', () => {
    for (const typed of ['0', '-1', '1.5', '', 'three', '10000', '1e3', '٣', '99999999999999'])
      expect(() => countTyped(typed), typed).toThrow('whole number')
    expect([countTyped(' 12 '), countTyped('0', 0), countTyped('9999')]).toEqual([12, 0, 9999])
    expect(() => withMore([line('a', 9998)], 'a', 2)).toThrow('whole number')
    const full = Array.from({ length: 100 }, (_, i) => line(`p${i}`))
    expect(() => withMore(full, 'one-more', 1)).toThrow('full')
    expect(withMore(full, 'p3', 4).find(one => one.product === 'p3')!.quantity).toBe(5)
    expect(withCount([line('a'), line('b')], 'a', 0)).toEqual([line('b')])
  })

  it('of a guest is signed, and is nothing where it was made up', () => {
    vi.stubEnv('BRAVIK_SECRET', 'a secret for baskets, thirty-two characters or more')
    readEnvironmentAnew()
    const lines = [line('fell-dk-moss', 3), { ...line('niddy-noddy'), seen: 3200 }]
    const cookie = basketToCookie(lines)
    expect(basketFromCookie(cookie)).toEqual(lines)
    const [body, signature] = cookie.split('.')
    const forged = Buffer.from(JSON.stringify([['fell-dk-moss', 3, 1]])).toString('base64url')
    for (const wrong of [
      undefined,
      '',
      'x',
      `${forged}.${signature}`,
      `${body}.${signature}.x`,
      `${body}.`,
      'x'.repeat(9000),
    ])
      expect(basketFromCookie(wrong)).toEqual([])
    expect(() => basketToCookie(Array.from({ length: 90 }, (_, i) => line(`a-product-with-a-long-name-${i}`)))).toThrow(
      'full',
    )
  })

  it('goes along when they sign in: what lies in both counts as in the fuller one', async () => {
    const id = await newPerson()
    await changeBasket(site.db, id, () => [line('niddy-noddy', 2), line('alum', 1)])
    await bringBasket(site.db, id, [line('alum', 3), line('lucet', 1)])
    expect((await basketOf(site.db, id)).map(({ product, quantity }) => [product, quantity])).toEqual([
      ['niddy-noddy', 2],
      ['alum', 3],
      ['lucet', 1],
    ])
    expect(merged([line('a', 5)], [line('a', 2)])).toEqual([line('a', 5)])
    expect(await admits(id, { basket: { product: 'lucet' } })).toBe(true)
    expect(await admits(id, { basket: { category: 'tools' } })).toBe(true)
    expect(await admits(id, { basket: { product: 'inkle-loom' } })).toBe(false)
  })

  it('loses nothing where it is changed from two browsers at once', async () => {
    const id = await newPerson()
    await Promise.all(
      Array.from({ length: 12 }, (_, i) =>
        changeBasket(many.db, id, lines => withMore(lines, i % 2 ? 'alum' : 'lucet', 1)),
      ),
    )
    expect((await basketOf(site.db, id)).map(one => one.quantity)).toEqual([6, 6])
  })
})

describe('an order', () => {
  it('keeps every figure with how it came about, and the edition that made it', async () => {
    const order = await place({ lines: [line('fell-dk-madder', 2), line('niddy-noddy')] })
    expect([order.net + order.tax, order.state, order.frozen.edition]).toEqual([order.gross, 'placed', 1])
    expect([order.gross, order.frozen.delivery?.id]).toEqual([1380 + 3200 + 615, 'post'])
    const [first] = order.frozen.basket.lines.filter(isTaxed)
    expect(first).toMatchObject({
      unit: 690,
      net: 1122,
      gross: 1380,
      tax: { applied: [{ rate: 'ie-standard', percent: '23' }] },
    })
    expect(order.frozen.titles['fell-dk-madder']).toBe('Fell DK, 50 g, madder')
  })

  it('placed several times at once is one, and is told to each', async () => {
    const holder: TillHolder = { person: await newPerson() }
    const lines = [line('alum', 2)]
    const first = { holder, lines, agreed: await grossOf({ holder, lines }) }
    await changeBasket(site.db, holder.person, () => lines)
    await site.db.transaction(tx => saveTill(tx, holder, where))
    await chooseDelivery(site.db as never, holder, 'post')
    const all = await Promise.all(Array.from({ length: 6 }, () => place({ ...first, again: true, db: many.db })))
    expect(new Set(all.map(one => one.id)).size).toBe(1)
    expect(await basketOf(site.db, holder.person)).toEqual([])
    expect((await site.db.select().from(stockReserved).where(eq(stockReserved.orderId, all[0]!.id))).length).toBe(1)
  })

  it('is refused where what they saw is not what it comes to, or something is not sold to them or nowhere sent', async () => {
    const lines = [line('alum', 2)]
    const gross = await grossOf({ lines })
    expect(await reasonOf(place({ lines, agreed: gross - 1 }))).toBe('basket-changed')
    // The price rose between the basket and paying.
    const dearer = new CompiledRules(
      rules.rulebook,
      new SiteIndex({
        ...rules.index.site,
        products: rules.index.site.products!.map(one => (one.id === 'alum' ? { ...one, price: 9900 } : one)),
      }),
    )
    expect(await reasonOf(place({ lines, agreed: gross, under: dearer }))).toBe('basket-changed')
    expect(await reasonOf(place({ lines: [line('carded-fell')], agreed: 1 }))).toBe('basket-changed')
    expect(await reasonOf(place({ lines: [line('gone')], agreed: 0 }))).toBe('basket-changed')
    expect(await reasonOf(place({ lines: [] }))).toBe('basket-empty')
    expect(await reasonOf(place({ lines, sentTo: { country: 'NO' } }))).toBe('not-sent-there')
    expect(await reasonOf(place({ lines, delivery: 'none' }))).toBe('delivery-not-chosen')
    expect(await reasonOf(place({ lines: [line('guild-year')] }))).toBe('gives-after-sign-in')
    expect(await site.db.$count(shopOrder, eq(shopOrder.gross, gross - 1))).toBe(0)
  })

  it('leaves the last piece to one of many who come at once', async () => {
    await setPieces('swift', 1)
    const holders = await Promise.all(Array.from({ length: 10 }, async () => ({ person: await newPerson() })))
    const told = await Promise.all(
      holders.map(holder => reasonOf(place({ holder, lines: [line('swift')], db: many.db }))),
    )
    expect(told.sort()).toEqual(['none', ...Array.from({ length: 9 }, () => 'sold-out')])
    expect((await freeOf(site.db, ['swift'], '')).get('swift')).toBe(0)
  })

  it('of several things each of two want never waits for another for ever', async () => {
    await setPieces('ball-winder', 40)
    await setPieces('lazy-kate', 40)
    const both = [line('ball-winder'), line('lazy-kate')]
    const told = await Promise.all(
      Array.from({ length: 20 }, (_, i) => reasonOf(place({ lines: i % 2 ? both : both.toReversed(), db: many.db }))),
    )
    expect(new Set(told)).toEqual(new Set(['none']))
    expect((await freeOf(site.db, ['lazy-kate'], '')).get('lazy-kate')).toBe(20)
  })

  it('keeps so many pieces for so long of a network that does not pay, and what left the basket no more', async () => {
    await setPieces('inkle-loom', 100)
    const start = Date.now()
    const later = (minutes: number) => vi.useFakeTimers({ toFake: ['Date'], now: new Date(start + minutes * 60_000) })
    const freeNow = async () => (await freeOf(site.db, ['inkle-loom'], '')).get('inkle-loom')
    const title = (id: string) => id
    const network = { network: '192.0.2.7' }
    const keep = (holder: TillHolder, count: number, keeper: Keeper = network) =>
      site.db.transaction(tx => keepStock(tx, [line('inkle-loom', count)], { till: tillName(holder), title, keeper }))
    const [first, second] = [guest(), guest()]
    await keep(first, 100)
    expect(await freeNow()).toBe(100 - mostKept.network.pieces)
    await keep(second, 80)
    expect(await freeNow()).toBe(100 - mostKept.network.pieces)
    // Somebody else’s network is another.
    await keep(guest(), 5, { network: '198.51.100.9' })
    expect(await freeNow()).toBe(75)
    await keepNoMoreThan(site.db, tillName(first), [line('inkle-loom', 3)])
    expect(await freeNow()).toBe(92)
    await keepNoMoreThan(site.db, tillName(first), [])
    expect(await freeNow()).toBe(95)
    // Kept anew each time it runs out, it is kept for as long as the bound says, and no longer.
    for (const minutes of [1, 21, 41, 61]) {
      later(minutes)
      await keep(first, 10)
    }
    expect(await freeNow()).toBe(100)
    // Who keeps nothing can still buy.
    expect((await bought({ lines: [line('inkle-loom', 30)] })).state).toBe('paid')
    later(60 * 5)
    await keep(first, 10)
    expect(await freeNow()).toBe(60)
    vi.useRealTimers()
    await site.db.delete(stockReserved).where(eq(stockReserved.product, 'inkle-loom'))
  })

  it('that nobody pays keeps a thing for a while and not again and again', async () => {
    await setPieces('inkle-loom', 8)
    const start = Date.now()
    const lines = [line('inkle-loom', 8)]
    const keeper = { network: '192.0.2.8' }
    const told: string[] = []
    for (const minutes of [0, 31, 62, 93]) {
      vi.useFakeTimers({ toFake: ['Date'], now: new Date(start + minutes * 60_000) })
      await giveUpUnpaid(site.db, world())
      told.push(await reasonOf(place({ lines, keeper })))
    }
    vi.useRealTimers()
    expect(told).toEqual(['none', 'none', 'kept-too-long', 'kept-too-long'])
    await site.db.delete(stockReserved).where(eq(stockReserved.product, 'inkle-loom'))
  })

  it('keeps for whoever is at the till, lets go what they take out, and frees what nobody paid', async () => {
    await setPieces('inkle-loom', 4)
    const holder = guest()
    const title = (id: string) => id
    const keep = (count: number) =>
      site.db.transaction(tx => keepStock(tx, [line('inkle-loom', count)], { till: tillName(holder), title }))
    await keep(3)
    expect((await freeOf(site.db, ['inkle-loom'], '')).get('inkle-loom')).toBe(1)
    expect((await freeOf(site.db, ['inkle-loom'], tillName(holder))).get('inkle-loom')).toBe(4)
    expect(await reasonOf(place({ lines: [line('inkle-loom', 2)] }))).toBe('sold-out')
    await keep(1)
    const order = await place({ holder, lines: [line('inkle-loom')] })
    expect((await freeOf(site.db, ['inkle-loom'], '')).get('inkle-loom')).toBe(3)
    await site.db
      .update(shopOrder)
      .set({ expiresAt: new Date(0) })
      .where(eq(shopOrder.id, order.id))
    expect(await giveUpUnpaid(site.db, world())).toBeGreaterThan(0)
    expect([(await orderNow(order)).state, (await freeOf(site.db, ['inkle-loom'], '')).get('inkle-loom')]).toEqual([
      'givenUp',
      4,
    ])
    expect(await pieces('inkle-loom')).toBe(4)
  })

  it('given up lies in the basket again, with its code', async () => {
    const id = await newPerson()
    const holder: TillHolder = { person: id }
    const offers: Rulebook['offers'] = [
      ...(rules.rulebook.offers ?? []),
      { id: 'one-use', on: { shop: true }, code: 'ONEUSE', uses: { all: 1 }, bands: [{ off: { percent: 50 } }] },
    ]
    const under = new CompiledRules({ ...rules.rulebook, offers }, rules.index)
    const give = async (who: TillHolder & { person: string }) =>
      giveCode(
        site.db,
        {
          snapshot: snapshotOf(under),
          decider: new CompiledDecider(under, (await visitorOf(site.db, who.person))!, Date.now()),
        },
        { typed: 'oneuse', holder: who, network: who.person },
      )
    await give(holder)
    const order = await place({ holder, lines: [line('madder-root', 2)], under })
    expect(order.frozen.codes).toEqual(['ONEUSE'])
    expect(order.frozen.basket.lines[0]).toMatchObject({ unit: 390 })
    const uses = () => site.db.select().from(codeUse).where(eq(codeUse.offer, 'one-use'))
    expect((await uses()).map(one => one.usedAt !== null)).toEqual([true])
    // Nobody else can use it meanwhile.
    expect(await reasonOf(give({ person: await newPerson() }))).toBe('code-used-up')
    await backToBasket(site.db, world(), order.id, id)
    expect([await uses(), (await basketOf(site.db, id)).map(one => one.quantity)]).toEqual([[], [2]])
    expect(await backToBasket(site.db, world(), order.id, id)).toBeNull()
    const other: TillHolder = { person: await newPerson() }
    await give(other)
    expect((await place({ holder: other, lines: [line('madder-root', 2)], under })).frozen.codes).toEqual(['ONEUSE'])
  })

  it('is another one where it was given up, or something else lies in the basket by now', async () => {
    const holder: TillHolder = { person: await newPerson() }
    const lines = [line('lucet')]
    const first = await place({ holder, lines })
    await backToBasket(site.db, world(), first.id, holder.person)
    // Straight to paying again, without saying once more where it goes.
    const second = await place({ holder, lines, again: true })
    expect([second.id === first.id, second.state]).toEqual([false, 'placed'])
    await notice(second)
    expect((await place({ holder, lines, again: true, agreed: second.gross })).id).toBe(second.id)
    await changeBasket(site.db, holder.person, () => [line('lucet', 2)])
    const third = await place({ holder, lines: [line('lucet', 2)], again: true })
    expect([third.id === second.id, third.frozen.basket.lines[0]!.quantity]).toEqual([false, 2])
    // A guest's browser keeps what it held: sent twice it is one, and what was put in since is another.
    const other = guest()
    const a = await place({ holder: other, lines })
    expect((await place({ holder: other, lines, again: true })).id).toBe(a.id)
    expect((await place({ holder: other, lines: [line('alum')], again: true })).id).not.toBe(a.id)
  })

  it('takes a code that works once from one of two who use it at once', async () => {
    const offers: Rulebook['offers'] = [
      { id: 'race', on: { shop: true }, code: 'RACE', uses: { all: 1 }, bands: [{ off: { percent: 50 } }] },
    ]
    const under = new CompiledRules({ ...rules.rulebook, offers }, rules.index)
    // Guests keep no use back: theirs is counted when they pay.
    const told = await Promise.all(
      Array.from({ length: 6 }, async () => {
        const holder = guest() as { guest: string }
        await site.db.insert(codeUse).values({
          offer: 'race',
          word: 'RACE',
          guest: holder.guest,
          takenAt: new Date(),
          until: new Date(Date.now() + 60_000),
        })
        const visitor: Visitor = { person: null, codes: [{ offer: 'race', code: 'RACE' }] }
        const lines = [line('onion-skins')]
        await many.db.transaction(tx => saveTill(tx, holder, where))
        await chooseDelivery(many.db as never, holder, 'post')
        const decider = new CompiledDecider(under, visitor, Date.now())
        const agreed = quoteBasket(decider, {
          lines: [{ product: 'onion-skins', quantity: 1 }],
          sentTo: where,
          delivery: 'post',
          when: 'pay',
        }).basket.gross
        return reasonOf(
          placeOrder(many.db, {
            snapshot: snapshotOf(under),
            world: orderWorld(snapshotOf(under)),
            holder,
            guestLines: lines,
            agreed,
            deciderOf: () => decider,
          }),
        )
      }),
    )
    expect(told.sort()).toEqual([...Array.from({ length: 5 }, () => 'code-used-up'), 'none'])
  })
})

describe('a payment', () => {
  it('counts once, however often and late it is told', async () => {
    await setPieces('hand-cards', 5)
    const order = await place({ lines: [line('hand-cards', 2)] })
    const same = { id: newId('notice', 16), reference: order.reference, kind: 'paid' as const, amount: order.gross }
    const told = await Promise.all([
      ...Array.from({ length: 4 }, () => takeOrderNotice(many.db, world(), same)),
      ...Array.from({ length: 4 }, () => takeOrderNotice(many.db, world(), { ...same, id: newId('notice', 16) })),
    ])
    expect(told.filter(one => one?.effect === 'paid').length).toBe(1)
    expect([await pieces('hand-cards'), (await invoicesOf(site.db, order.id)).length]).toEqual([3, 1])
    expect(await site.db.$count(stockReserved, eq(stockReserved.orderId, order.id))).toBe(0)
    // Declined afterwards tells nothing new.
    await notice(order, { kind: 'declined' })
    expect((await orderNow(order)).state).toBe('paid')
  })

  it('of another sum is not taken for it, and staff are told', async () => {
    const order = await place({ lines: [line('alum')] })
    await notice(order, { amount: order.gross - 1 })
    expect(await orderNow(order)).toMatchObject({
      state: 'placed',
      paidAt: null,
      trouble: expect.stringContaining('instead of'),
    })
    await notice(order)
    expect((await orderNow(order)).state).toBe('paid')
    expect(await takeOrderNotice(site.db, world(), { id: 'x', reference: 'pay-nothing', kind: 'paid' })).toBeNull()
    // What comes besides, and what goes back unasked, changes nothing by itself: somebody has to look.
    await notice(order, { amount: 1 })
    expect(await orderNow(order)).toMatchObject({ state: 'paid', trouble: expect.stringContaining('besides') })
    await notice(order, { kind: 'refunded' })
    expect(await orderNow(order)).toMatchObject({
      state: 'paid',
      refunded: 0,
      trouble: expect.stringContaining('nobody here asked'),
    })
  })

  it('that comes after the order was given up is kept for staff where it cannot be had any more', async () => {
    await setPieces('needle-gauge', 1)
    const late = await place({ lines: [line('needle-gauge')] })
    await backToBasket(site.db, world(), late.id, null)
    const other = await bought({ lines: [line('needle-gauge')] })
    expect([other.state, await pieces('needle-gauge')]).toEqual(['paid', 0])
    await notice(late)
    expect(await orderNow(late)).toMatchObject({
      state: 'givenUp',
      paidAt: null,
      trouble: expect.stringContaining('after it was given up'),
    })
    expect([await pieces('needle-gauge'), await invoicesOf(site.db, late.id)]).toEqual([0, []])
    // It is offered back, and goes once.
    const matter = (await matters()).find(one => one.order === late.number)!
    expect(matter).toMatchObject({ what: 'besides', amount: late.gross, asked: false })
    const give = () => many.db.transaction(tx => giveBackBesides(tx, matter.number, ines))
    await Promise.all([give(), give(), give()])
    expect(await hearBack(late)).toEqual([late.gross])
    expect((await matters()).find(one => one.order === late.number)).toBeUndefined()
  })

  it('that comes after the order was given up takes stock and code anew, and what lay in the basket again', async () => {
    await setPieces('needle-gauge', 3)
    const holder: TillHolder = { person: await newPerson() }
    const lines = [line('needle-gauge', 2)]
    const order = await place({ holder, lines })
    await backToBasket(site.db, world(), order.id, holder.person)
    expect((await basketOf(site.db, holder.person)).length).toBe(1)
    await notice(order)
    expect([(await orderNow(order)).state, await pieces('needle-gauge')]).toEqual(['paid', 1])
    expect([
      await basketOf(site.db, holder.person),
      (await freeOf(site.db, ['needle-gauge'], '')).get('needle-gauge'),
    ]).toEqual([[], 1])
    // The price rose meanwhile: it is not sold at the old one.
    const cheap = await place({ lines: [line('needle-gauge')] })
    await backToBasket(site.db, world(), cheap.id, null)
    const dearer = new CompiledRules(
      rules.rulebook,
      new SiteIndex({
        ...rules.index.site,
        products: rules.index.site.products!.map(one => (one.id === 'needle-gauge' ? { ...one, price: 9900 } : one)),
      }),
    )
    await takeOrderNotice(site.db, orderWorld(snapshotOf(dearer)), {
      id: newId('notice', 16),
      reference: cheap.reference,
      kind: 'paid',
      amount: cheap.gross,
    })
    expect([(await orderNow(cheap)).state, await pieces('needle-gauge')]).toEqual(['givenUp', 1])
  })

  it('of one code that works once pays one order of several, whichever are given up and paid all the same', async () => {
    const offers: Rulebook['offers'] = [
      { id: 'three', on: { shop: true }, code: 'THREE', uses: { all: 1 }, bands: [{ off: { percent: 50 } }] },
    ]
    const under = new CompiledRules({ ...rules.rulebook, offers }, rules.index)
    const holder = { person: await newPerson() }
    const lines = [line('madder-root', 2)]
    const orders: OrderRow[] = []
    for (let i = 0; i < 3; i++) {
      const decider = new CompiledDecider(under, (await visitorOf(site.db, holder.person))!, Date.now())
      const ask = { snapshot: snapshotOf(under), decider }
      await giveCode(site.db, ask, { typed: 'three', holder, network: `three-${i}` })
      const order = await place({ holder, lines, under })
      orders.push(order)
      if (i < 2) await backToBasket(site.db, orderWorld(snapshotOf(under)), order.id, holder.person)
    }
    expect(orders.map(one => one.frozen.codes)).toEqual([['THREE'], ['THREE'], ['THREE']])
    for (const order of orders)
      await takeOrderNotice(many.db, orderWorld(snapshotOf(under)), {
        id: newId('notice', 16),
        reference: order.reference,
        kind: 'paid',
        amount: order.gross,
      })
    const states = await Promise.all(orders.map(async one => (await orderNow(one)).state))
    expect(states).toEqual(['givenUp', 'givenUp', 'paid'])
    expect((await site.db.select().from(codeUse).where(eq(codeUse.offer, 'three'))).length).toBe(1)
    expect((await matters()).filter(one => orders.some(order => order.number === one.order)).length).toBe(2)
  })

  it('of the full sum told twice by two notices is told to staff, and given back once without touching what was bought', async () => {
    const order = await bought({ lines: [line('alum')] })
    await notice(order)
    expect((await orderNow(order)).trouble).toContain('besides')
    const [matter] = (await matters()).filter(one => one.order === order.number)
    await many.db.transaction(tx => giveBackBesides(tx, matter!.number, ines))
    expect(await hearBack(order)).toEqual([order.gross])
    expect(await orderNow(order)).toMatchObject({ state: 'paid', refunded: 0 })
    // All of what the order itself was paid with can still go back, and no more.
    expect(await refund(order)).toEqual({ gross: order.gross })
    expect(await sumsOf(site.db, order.reference)).toEqual({
      in: 2 * order.gross,
      asked: 2 * order.gross,
      out: 2 * order.gross,
    })
  })

  it('numbers invoices without a gap, however many are paid at once and some fail', async () => {
    const before = await site.db.$count(invoice, sql`${invoice.kind} = 'invoice'`)
    const orders = await Promise.all(Array.from({ length: 8 }, () => place({ lines: [line('iron-water')] })))
    const broken = { ...world(), seller: { ...world().seller, timezone: 'Nowhere/Nothing' } }
    await Promise.all(
      orders.map((order, i) =>
        takeOrderNotice(many.db, i === 3 ? broken : world(), {
          id: newId('notice', 16),
          reference: order.reference,
          kind: 'paid',
          amount: order.gross,
        }).catch(() => null),
      ),
    )
    const numbers = (await site.db.select().from(invoice).where(eq(invoice.kind, 'invoice')))
      .map(one => Number(one.number.slice(5)))
      .sort((a, b) => a - b)
    expect(numbers).toEqual(Array.from({ length: before + 7 }, (_, i) => i + 1))
    expect((await orderNow(orders[3]!)).state).toBe('placed')
  })
})

describe('money given back', () => {
  it('in parts comes to what was paid, with its tax and a credit note each, and the rest is closed', async () => {
    const order = await bought({ lines: [line('fell-dk-woad', 3), line('niddy-noddy')] })
    await setPieces('fell-dk-woad', 10)
    expect(await refund(order, { lines: [{ position: 0, pieces: 1 }], restock: true })).toEqual({ gross: 690 })
    expect([(await orderNow(order)).refunded, await pieces('fell-dk-woad')]).toEqual([690, 11])
    await refund(order, { lines: [{ position: 0, pieces: 2 }], delivery: true })
    expect((await orderNow(order)).state).toBe('paid')
    await refund(order)
    const now = await orderNow(order)
    expect([now.refunded, now.state]).toEqual([now.gross, 'refunded'])
    const papers = await invoicesOf(site.db, order.id)
    const [paid, ...credits] = papers
    const sum = (key: 'net' | 'tax' | 'gross') => credits.reduce((all, one) => all + one.body[key], 0)
    expect([sum('net'), sum('tax'), sum('gross')]).toEqual([paid!.body.net, paid!.body.tax, paid!.body.gross])
    expect(credits.map(one => one.body.of)).toEqual(credits.map(() => paid!.number))
    expect(await reasonOf(refund(order))).toBe('more-than-paid')
  })

  it('is never more than was paid, asked twice is given once, and never of what is not paid', async () => {
    const order = await bought({ lines: [line('lucet', 2)] })
    expect(await reasonOf(refund(order, { lines: [{ position: 0, pieces: 3 }] }))).toBe('more-than-paid')
    expect(await reasonOf(refund(order, { lines: [{ position: 1, pieces: 1 }] }))).toBe('more-than-paid')
    const ask = toRefund.parse({ request: randomUUID(), lines: [{ position: 0, pieces: 2 }] })
    const works = Array.from({ length: 5 }, () => many.db.transaction(tx => giveBack(tx, order.number, ask, ines)))
    expect(new Set((await Promise.all(works)).map(one => one.gross)).size).toBe(1)
    expect(await site.db.$count(moneyBack, eq(moneyBack.orderId, order.id))).toBe(1)
    const others = Array.from({ length: 3 }, () => ({ ...ask, request: randomUUID() }))
    const told = await Promise.all(
      others.map(one => reasonOf(many.db.transaction(tx => giveBack(tx, order.number, one, ines)))),
    )
    expect(told).toEqual(['more-than-paid', 'more-than-paid', 'more-than-paid'])
    const unpaid = await place({ lines: [line('lucet')] })
    expect(await reasonOf(refund(unpaid))).toBe('order-not-paid')
    expect(await reasonOf(site.db.transaction(tx => giveBack(tx, 2_000_000, ask, ines)))).toBe('no-such-order')
  })
})

describe('what buying gives', () => {
  it('is true in rules once it is paid, and false when it is wholly given back', async () => {
    const id = await newPerson()
    const holder: TillHolder = { person: id }
    const seen = async () =>
      Promise.all(
        (
          [
            { bought: { product: 'fell-dk' } },
            { bought: { category: 'yarn' } },
            { orders: { atLeast: 1 } },
            { spent: { atLeast: 1000 } },
            { basket: { product: 'fell-dk-moss' } },
          ] as Condition[]
        ).map(one => admits(id, one)),
      )
    await changeBasket(site.db, id, () => [line('fell-dk-moss', 2)])
    expect(await seen()).toEqual([false, false, false, false, true])
    const order = await place({ holder, lines: [line('fell-dk-moss', 2)] })
    expect(await seen()).toEqual([false, false, false, false, false])
    await notice(order)
    expect(await seen()).toEqual([true, true, true, true, false])
    await refund(order, { lines: [{ position: 0, pieces: 1 }] })
    expect(await seen()).toEqual([true, true, true, true, false])
    await refund(order)
    expect(await seen()).toEqual([false, false, false, false, false])
  })

  it('is a level for its period and visitor roles, never of the staff, until the money is given back', async () => {
    const id = await newPerson()
    const products = rules.index.site.products!.map(one =>
      one.id === 'guild-year' ? { ...one, gives: { level: 'guild', roles: ['islander', 'keeper'] } } : one,
    )
    const under = new CompiledRules(rules.rulebook, new SiteIndex({ ...rules.index.site, products }))
    const order = await bought({ holder: { person: id }, lines: [line('guild-year')], under })
    const visitor = (await visitorOf(site.db, id))!
    expect([visitor.levels!.map(one => one.level), visitor.roles]).toEqual([['guild'], ['islander']])
    const days = (Date.parse(visitor.levels![0]!.until!) - Date.now()) / 86_400_000
    expect(days).toBeGreaterThan(363)
    expect(days).toBeLessThan(367)
    await refund(order)
    const after = (await visitorOf(site.db, id))!
    expect([after.levels!.filter(one => !one.until || Date.parse(one.until) > Date.now()), after.roles]).toEqual([
      [],
      [],
    ])
  })

  it('is somebody else’s where it was a gift: once, and not after it was given back', async () => {
    const [giver, taker, late] = [await newPerson(), await newPerson(), await newPerson()]
    const first = await bought({
      holder: { person: giver },
      lines: [line('guild-year')],
      gift: 'somebody@elsewhere.example',
    })
    // Nobody has anything to pack of what is not sent.
    expect([first.state, first.sentAt]).toEqual(['sent', null])
    expect((await visitorOf(site.db, giver))!.levels).toEqual([])
    const mails = await site.db.select().from(mailOut).where(eq(mailOut.recipient, 'somebody@elsewhere.example'))
    const token = mails[0]!.values.link!.split('/').at(-1)!
    const read = (secret = token) => readGift(site.db, secret)
    expect(await read()).toMatchObject({ from: 'Una Best', what: [expect.any(String)], until: expect.any(String) })
    expect(await read('made-up')).toBeNull()
    const told = await Promise.all([taker, late].map(id => reasonOf(takeGift(many.db, world(), token, id))))
    expect(told.sort()).toEqual(['gift-taken', 'none'])
    const levels = await Promise.all([taker, late].map(async id => (await visitorOf(site.db, id))!.levels!.length))
    expect(levels.sort()).toEqual([0, 1])
    expect((await read())?.until).toBeNull()
    expect(await reasonOf(takeGift(site.db, world(), 'made-up', late))).toBe('not-found')
    const second = await bought({
      holder: { person: giver },
      lines: [line('guild-year')],
      gift: 'other@elsewhere.example',
    })
    await refund(second)
    const [mail] = await site.db.select().from(mailOut).where(eq(mailOut.recipient, 'other@elsewhere.example'))
    expect(await reasonOf(takeGift(site.db, world(), mail!.values.link!.split('/').at(-1)!, late))).toBe('gift-taken')
  })

  it('becomes theirs who bought as a guest, once a link mailed to the address was followed', async () => {
    await bought({ lines: [line('cowl-kit')], sentTo: { email: 'Later@Orders.example' } })
    const id = await newPerson()
    const adopt = () => site.db.transaction(tx => adoptOrders(tx, { id }))
    // Whoever says that it is theirs, or whom staff give it to, has proven nothing.
    await site.db.update(person).set({ email: 'later@orders.example' }).where(eq(person.id, id))
    await adopt()
    expect(await admits(id, { orders: { atLeast: 1 } })).toBe(false)
    await site.db.update(person).set({ provenAt: new Date() }).where(eq(person.id, id))
    await adopt()
    expect(await admits(id, { bought: { category: 'kits' } })).toBe(true)
  })
})

describe('papers', () => {
  it('say the same as a page, as PDF and as UBL, with the taxes each', async () => {
    const order = await bought({
      lines: [line('fell-dk-madder', 2), line('weld-seed', 3)],
      sentTo: { name: 'Una & <Best>' },
    })
    const [paper] = await invoicesOf(site.db, order.id)
    const { body } = paper!
    expect(body.taxes.map(({ called, percent }) => `${called} ${percent}`)).toEqual(['VAT 23', 'VAT 13.5'])
    expect(body.net + body.tax).toBe(order.gross)
    const xml = invoiceUbl(paper!)
    expect(xml).toContain('<cbc:ID>' + paper!.number)
    expect(xml).toContain('Una &amp; &lt;Best&gt;')
    const amounts = [...xml.matchAll(/<cbc:TaxAmount currencyID="EUR">([\d.]+)/g)].map(one =>
      Math.round(Number(one[1]) * 100),
    )
    expect(amounts[0]).toBe(body.tax)
    expect(amounts.slice(1, 3).reduce((sum, one) => sum + one, 0)).toBe(body.tax)
    expect(xml).toContain(`<cbc:PayableAmount currencyID="EUR">${(order.gross / 100).toFixed(2)}<`)
    const pdf = await invoicePdf(paper!, englishWords, 'Europe/Dublin')
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-')
    expect(pdf.length).toBeGreaterThan(1000)
    // Letters no reader has by itself are in the file: another name has other ones.
    const named = (name: string) =>
      invoicePdf({ ...paper!, body: { ...body, buyer: { ...body.buyer, name } } }, englishWords, 'Europe/Dublin')
    expect(pdf.includes('DejaVuSans')).toBe(true)
    expect((await named('Łucja Żądło, Ελένη, Ольга')).length).toBeGreaterThan((await named('Una Best')).length + 500)
  })
})
