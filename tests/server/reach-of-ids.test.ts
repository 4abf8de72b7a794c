/** What opens something by its address goes to whom it belongs: staff are told numbers. */
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { CompiledRules } from '../../core/gates/compiled'
import type { StaffRule } from '../../core/staff/staff-rule'
import type { Connection } from '../../server/db/database'
import { mailKept, shopOrder } from '../../server/db/schema'
import type { Worker } from '../../server/services/live/worker'
import { outbox } from '../../server/services/mail/mail'
import { listOrders, ordersAsked, tellOrder } from '../../server/services/orders/looked-after'
import { listMatters } from '../../server/services/payments/matters'
import { freshDatabase } from '../support/database'
import { liveRules, snapshotOf } from '../support/world'

let site: Connection
let rules: CompiledRules
beforeAll(async () => {
  site = await freshDatabase('demo')
  rules = await liveRules(site)
})
afterAll(() => site.close())

const hand = (...kept: Omit<StaffRule, 'role' | 'whose'>[]): Worker => ({
  rights: {
    personId: 'p-hand',
    masterKey: false,
    rules: kept.map(rule => ({ role: 'hand', whose: 'anyone' as const, ...rule })),
  },
  snapshot: snapshotOf(rules),
})

describe('an order told to staff', () => {
  it('names neither its address nor its payment, nor to a hand without buyers who bought and what they wrote', async () => {
    const [order] = await site.db.select().from(shopOrder).orderBy(shopOrder.number).limit(1)
    await site.db
      .update(shopOrder)
      .set({ frozen: { ...order!.frozen, note: 'ring twice' } })
      .where(eq(shopOrder.id, order!.id))
    const narrowed = hand({ kind: 'orders', actions: ['look', 'change'], fields: ['state'] })
    const told = JSON.stringify([
      await listOrders(site.db, narrowed, ordersAsked.parse({})),
      await tellOrder(site.db, narrowed, order!.number),
      await listMatters(site.db, narrowed),
    ])
    for (const secret of [order!.id, order!.reference, order!.name, order!.email, 'ring twice'])
      expect(told).not.toContain(secret)
    const whole = JSON.stringify(await tellOrder(site.db, hand({ kind: 'orders', actions: ['look'] }), order!.number))
    expect([whole.includes('ring twice'), whole.includes(order!.id), whole.includes(order!.reference)]).toEqual([
      true,
      false,
      false,
    ])
  })
})

describe('the outbox', () => {
  it('shows links that open something to nobody who may not do everything', async () => {
    const links = ['/gift/abcDEF-_1', '/order/order-abc', '/reset?token=abcDEF', '/feed/own/abcDEF', '/pay/pay-abc']
    const words = links.map(link => `https://mill.example${link}`).join(' and ')
    await site.db
      .insert(mailKept)
      .values({ sender: 's', recipient: 'r@r.example', subject: 's', plain: words, html: words })
    const { kept } = await outbox(site.db, '', false)
    expect(kept[0]!.plain).not.toMatch(/abc/)
    expect(kept[0]!.html).not.toMatch(/abc/)
    expect((await outbox(site.db, '', true)).kept[0]!.plain).toBe(words)
  })
})
