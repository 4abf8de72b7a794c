/** What findings about taxes count. */
import { and, eq, isNotNull, sql } from 'drizzle-orm'
import type { AnyDb } from '../../db/database'
import { shopOrder, version } from '../../db/schema'

export interface TaxCounts {
  /** Paid orders by country. */ sentTo: Record<string, number>
  /** By `kind key`, when it was last written, milliseconds since 1970. */ changedAt: Record<string, number>
}

export async function countTaxes(db: AnyDb): Promise<TaxCounts> {
  const sent = await db
    .select({ country: shopOrder.country, orders: sql<number>`count(*)::int` })
    .from(shopOrder)
    .where(isNotNull(shopOrder.paidAt))
    .groupBy(shopOrder.country)
  const rates = await db
    .select({ key: version.key, at: sql<string>`max(${version.changedAt})::text` })
    .from(version)
    .where(and(eq(version.kind, 'rate'), isNotNull(version.body)))
    .groupBy(version.key)
  return {
    sentTo: Object.fromEntries(sent.map(({ country, orders }) => [country, orders])),
    changedAt: Object.fromEntries(rates.map(({ key, at }) => [`rate ${key}`, Date.parse(at)])),
  }
}
