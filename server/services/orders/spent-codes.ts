/** Codes an order spends: each named by the order and the offer, so that they are good again when it is given up. */
import { like, sql } from 'drizzle-orm'
import type { AnyDb, Tx } from '../../db/database'
import { codeUse } from '../../db/schema'
import type { Holder } from '../shop/given-codes'

export const spentFor = (order: string, offer: string) => `${order} ${offer}`

export const freeCodesOf = (tx: Tx, order: string) => tx.delete(codeUse).where(like(codeUse.request, `${order} %`))

/** The code that is kept for them, which may be one of many; else what everybody types. */
export async function typedFor(tx: AnyDb, holder: Holder, offer: string, shared: string): Promise<string> {
  const [kept] = await tx.execute<{ code: string }>(sql`
    select c.code from code_use u join single_code c on c.id = u.code_id
    where u.offer = ${offer} and u.used_at is null and ${'person' in holder ? sql`u.person_id = ${holder.person}` : sql`u.guest = ${holder.guest}`}`)
  return kept?.code ?? shared
}
