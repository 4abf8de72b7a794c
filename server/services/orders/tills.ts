/** What somebody at the till said so far: whom and where to, how, and what else they want to tell. */
import { eq, lt } from 'drizzle-orm'
import { z } from 'zod'
import { isCountry } from '../../../core/site/countries'
import { oneLine } from '../../../core/texts/control-characters'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { shopOrder, till } from '../../db/schema'
import { newId } from '../secrets/tokens'
import type { Holder } from '../shop/given-codes'

export type TillHolder = Holder
export const tillName = (holder: TillHolder): string =>
  'person' in holder ? `person:${holder.person}` : `guest:${holder.guest}`

export type TillRow = typeof till.$inferSelect

/** One line, as it is written on a parcel. */
const written = (most: number, least = '') =>
  z
    .string()
    .max(2000)
    .transform(oneLine)
    .pipe(least ? z.string().trim().min(1, least).max(most) : z.string().trim().max(most))

export const toSend = z.strictObject({
  name: written(120, 'A name, please.'),
  email: z.email().max(200),
  lines: written(300, 'A street, please.'),
  town: written(120, 'A town, please.'),
  postcode: written(20),
  country: z.string().refine(isCountry, 'A country, please.'),
  region: z
    .string()
    .regex(/^[A-Z]{2}-[A-Z0-9]{1,3}$/)
    .optional(),
  note: z.string().trim().max(1000).default(''),
  gift: z.email().max(200).optional(),
})
export type ToSend = z.infer<typeof toSend>

export async function tillOf(db: AnyDb, holder: TillHolder): Promise<TillRow | null> {
  const [row] = await db
    .select()
    .from(till)
    .where(eq(till.holder, tillName(holder)))
  return row ?? null
}

/** Keeps it. Once what was said before became an order, what is said now is for another one. */
export async function saveTill(
  tx: Tx,
  holder: TillHolder,
  { name, email, note, gift, ...address }: ToSend,
): Promise<void> {
  const [before] = await tx
    .select()
    .from(till)
    .where(eq(till.holder, tillName(holder)))
    .for('update')
  const isUsed = before && (await tx.$count(shopOrder, eq(shopOrder.request, before.request))) > 0
  const request = before && !isUsed ? before.request : newId('till', 20)
  const { region, postcode, ...place } = address
  const values = {
    name,
    email,
    note,
    gift: gift ?? null,
    address: { ...place, ...(region ? { region } : {}), ...(postcode ? { postcode } : {}) },
    request,
    touchedAt: clockDate(),
  }
  await tx
    .insert(till)
    .values({ holder: tillName(holder), personId: 'person' in holder ? holder.person : null, ...values })
    .onConflictDoUpdate({ target: till.holder, set: values })
}

export const chooseDelivery = (tx: AnyDb, holder: TillHolder, delivery: string) =>
  tx
    .update(till)
    .set({ delivery, touchedAt: clockDate() })
    .where(eq(till.holder, tillName(holder)))

const keptHours = 24
/** Addresses nobody ordered to are not kept. */
export async function dropOldTills(db: AnyDb | Tx): Promise<void> {
  await db.delete(till).where(lt(till.touchedAt, new Date(clockMs() - keptHours * 3_600_000)))
}
