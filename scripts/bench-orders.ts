/** Orders placed and paid at once, over connections of their own: how many a second, and whether every unit of stock is where it should be. */
import { eq, sql } from 'drizzle-orm'
import { CompiledRules } from '../core/gates/compiled'
import { CompiledDecider } from '../core/gates/compiled-decider'
import { quoteBasket } from '../core/orders/basket-quote'
import { connect } from '../server/db/database'
import { inTransaction } from '../server/db/turn'
import { shopOrder, stock, stockReserved } from '../server/db/schema'
import { placeOrder } from '../server/services/orders/place'
import { chooseDelivery, saveTill } from '../server/services/orders/tills'
import { newId } from '../server/services/secrets/tokens'
import { contentsAt, readState } from '../server/services/versions/versions'
import { prepare } from './steps.mjs'

const connections = 20
const orders = 600
const product = 'fell-dk-madder'
const sentTo = {
  name: 'B',
  email: 'bench@orders.example',
  lines: 'L',
  town: 'T',
  postcode: 'WX1',
  country: 'IE',
  note: '',
}

export async function benchOrders(databaseUrl: string): Promise<void> {
  prepare(databaseUrl)
  const { db, close } = connect(databaseUrl, connections)
  try {
    const state = await readState(db)
    const contents = await contentsAt(db, state, 1)
    const rules = new CompiledRules(contents.book, contents.index)
    const decider = new CompiledDecider(rules, { person: null, basket: [{ product, quantity: 1 }] }, Date.now())
    const lines = [{ product, quantity: 1, seen: null }]
    const agreed = quoteBasket(decider, { lines, sentTo, delivery: 'post', when: 'pay' }).basket.gross
    // Fewer pieces than orders: some of them must be refused.
    const pieces = orders - 100
    await db.update(stock).set({ pieces }).where(eq(stock.product, product))
    const holders = Array.from({ length: orders }, () => ({ guest: newId('g', 20) }))
    for (const holder of holders) {
      await inTransaction(db, tx => saveTill(tx, holder, sentTo))
      await chooseDelivery(db as never, holder, 'post')
    }
    const snapshot = { edition: 1, rules } as never
    let refused = 0
    const queue = [...holders]
    const start = performance.now()
    await Promise.all(
      Array.from({ length: connections }, async () => {
        for (let holder = queue.pop(); holder; holder = queue.pop())
          await placeOrder(db, {
            snapshot,
            world: {} as never,
            holder,
            guestLines: lines,
            agreed,
            deciderOf: () => decider,
          }).catch(() => refused++)
      }),
    )
    const seconds = (performance.now() - start) / 1000
    const placed = await db.$count(shopOrder, eq(shopOrder.email, sentTo.email))
    const [kept] = await db
      .select({ pieces: sql<number>`sum(${stockReserved.pieces})::int` })
      .from(stockReserved)
      .where(eq(stockReserved.product, product))
    console.log(
      `orders of one product, ${connections} connections: ${(orders / seconds).toFixed(0)} a second (aim: 100); of ${pieces} pieces ${placed} placed, ${kept!.pieces} kept, ${refused} refused${placed === pieces && kept!.pieces === pieces && refused === orders - pieces ? ': none lost or doubled' : ': WRONG'}`,
    )
  } finally {
    await close()
  }
}
