/** The database's clock: one for all servers of a site, whose own may be apart. */
import { sql } from 'drizzle-orm'
import { environment } from '../environment'
import type { AnyDb } from './database'

/** What time it is there, for a statement. `BRAVIK_CLOCK_OFFSET_MS` moves it as it moves the server's. */
export const sharedClock = () =>
  sql<Date>`(clock_timestamp() + ${`${environment().BRAVIK_CLOCK_OFFSET_MS} milliseconds`}::interval)`

/** The same, in milliseconds since 1970. */
export async function sharedNow(tx: AnyDb): Promise<number> {
  const [row] = await tx.execute<{ ms: number }>(sql`select extract(epoch from ${sharedClock()})::float8 * 1000 ms`)
  return row!.ms
}
