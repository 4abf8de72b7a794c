/**
 * Codes visitors give. Giving one keeps one of its uses for a person, until a while later or until it is used for good, so
 * that they are not told a price that is gone when they come to pay: what is kept and what is used count alike towards the
 * limits. For a guest nothing is kept back, or a stranger could keep all there are: theirs is counted when they pay. Uses
 * are counted behind a lock for each offer, so that two who come at once are counted one by one.
 */
import { inTransaction } from '../../db/turn'
import { and, asc, eq, gt, isNotNull, isNull, lte, or, sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { Offer } from '../../../core/rulebook/shop-rules'
import { foldedCode } from '../../../core/visitor/given-code'
import { everyone } from '../../../core/shop/offer'
import type { Visitor } from '../../../core/visitor/visitor'
import { clockDate, clockMs } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { lockOne } from '../../db/locks'
import { codeBatch, codeUse, singleCode } from '../../db/schema'
import { Problem } from '../../problem'
import type { Snapshot } from '../live/snapshot'
import { countTry } from '../secrets/throttle'

/** Whoever keeps a use: a person, or a guest by the hash of what their browser holds. */
export type Holder = { person: string } | { guest: string }

const hours = 3_600_000
/** Milliseconds a use is kept: of a guest as long as a visit, of a person longer where nobody waits for it. */
const keptMs = { guest: 2 * hours, limited: 48 * hours, unlimited: 30 * 24 * hours } as const
const longestCode = 200

interface Found {
  offer: Offer
  /** Of a code made one by one: how often it works, and whose it is where it was shown to one person. */
  single?: { id: number; most: number; owner: string | null }
}
/** What a use is asked for: by whom, and under which rules. */
interface UseAsk {
  snapshot: Snapshot
  decider: CompiledDecider
}

const isLive = (offer: Offer) => offer.active !== false && offer.code !== undefined
const isSingle = (offer: Offer) => offer.codes === 'single'
const isLimited = ({ uses }: Offer) => uses?.person !== undefined || uses?.all !== undefined

/** The offers a typed code opens, by id: those that share it, or the one it was made for. */
async function offersOf(tx: AnyDb, { rules }: Snapshot, typed: string): Promise<Found[]> {
  const folded = foldedCode(typed)
  const live = (rules.rulebook.offers ?? []).filter(isLive)
  const sharing = live.filter(offer => !isSingle(offer) && foldedCode(offer.code!) === folded)
  if (sharing.length) return sharing.sort((a, b) => (a.id < b.id ? -1 : 1)).map(offer => ({ offer }))
  const [made] = await tx
    .select({ id: singleCode.id, offer: singleCode.offer, owner: singleCode.personId, most: codeBatch.most })
    .from(singleCode)
    .innerJoin(codeBatch, eq(codeBatch.id, singleCode.batch))
    .where(and(eq(singleCode.folded, folded), isNull(singleCode.stoppedAt)))
  const offer = made && live.find(one => isSingle(one) && one.id === made.offer)
  return offer ? [{ offer, single: { id: made.id, most: made.most, owner: made.owner } }] : []
}

const heldBy = (holder: Holder): SQL =>
  'person' in holder ? eq(codeUse.personId, holder.person) : eq(codeUse.guest, holder.guest)

/** What counts: used, or kept back for a person. */
const counts = () => or(isNotNull(codeUse.usedAt), and(isNotNull(codeUse.personId), gt(codeUse.until, clockDate())))

/** How often an offer's code is used or kept by others than the use this holder keeps. */
async function countUses(tx: AnyDb, { offer, single }: Found, holder: Holder) {
  const mine = and(heldBy(holder), isNull(codeUse.usedAt))
  const [row] = await tx
    .select({
      all: sql<number>`count(*)::int`,
      person:
        'person' in holder
          ? sql<number>`count(*) filter (where ${codeUse.personId} = ${holder.person})::int`
          : sql<number>`0`,
      single: single ? sql<number>`count(*) filter (where ${codeUse.codeId} = ${single.id})::int` : sql<number>`0`,
    })
    .from(codeUse)
    .where(and(eq(codeUse.offer, offer.id), counts(), sql`(${mine}) is not true`))
  return row!
}

/** Throws where an offer's limits leave no use for this holder. The offer is locked. */
async function refuseOverLimit(tx: AnyDb, found: Found, holder: Holder): Promise<void> {
  const { person, all } = found.offer.uses ?? {}
  if (person !== undefined && !('person' in holder)) throw new Problem('code-after-sign-in')
  if (person === undefined && all === undefined && !found.single) return
  const used = await countUses(tx, found, holder)
  if (person !== undefined && used.person >= person) throw new Problem('code-used-by-you', { most: person })
  if ((all !== undefined && used.all >= all) || (found.single && used.single >= found.single.most))
    throw new Problem('code-used-up')
}

/** For whom an offer is, asked with what they hold now; and whose a code is that was shown to one person. */
function refuseOthers({ offer, single }: Found, decider: CompiledDecider): void {
  const isTheirs = single?.owner == null || single.owner === decider.asker.personId
  if (isTheirs && decider.admits(offer.for ?? everyone)) return
  throw new Problem(decider.asker.signedIn ? 'code-not-for-you' : 'code-after-sign-in')
}

async function keep(tx: Tx, found: Found, holder: Holder): Promise<Date> {
  const { offer, single } = found
  const span = 'guest' in holder ? keptMs.guest : isLimited(offer) || single ? keptMs.limited : keptMs.unlimited
  const until = new Date(clockMs() + span)
  const values = { word: offer.code!, codeId: single?.id ?? null, takenAt: clockDate(), until }
  await tx
    .insert(codeUse)
    .values({
      offer: offer.id,
      ...('person' in holder ? { personId: holder.person } : { guest: holder.guest }),
      ...values,
    })
    .onConflictDoUpdate({
      target: 'person' in holder ? [codeUse.personId, codeUse.offer] : [codeUse.guest, codeUse.offer],
      targetWhere: isNull(codeUse.usedAt),
      set: values,
    })
  return until
}

/**
 * Keeps a use of a typed code for whoever gave it, of each offer it opens for them; answers these offers. Giving it again
 * keeps it for longer and takes no second use. Throws `no-such-code`, and why it is not theirs where it is a code.
 */
export async function giveCode(
  db: AnyDb,
  ask: UseAsk,
  { typed, holder, network }: { typed: string; holder: Holder; network: string },
): Promise<string[]> {
  const windowMs = 10 * 60_000
  const who = 'person' in holder ? holder.person : holder.guest
  await countTry(
    db,
    [
      { what: 'giveCode', of: who, most: 20, windowMs },
      { what: 'giveCodeFrom', of: network, most: 60, windowMs },
    ],
    'tries of codes',
  )
  if (!typed.trim() || typed.length > longestCode) throw new Problem('no-such-code', {}, { at: '/code' })
  return inTransaction(db, async tx => {
    const found = await offersOf(tx, ask.snapshot, typed)
    if (!found.length) throw new Problem('no-such-code', {}, { at: '/code' })
    const given: string[] = []
    let refusal: unknown
    for (const one of found) {
      try {
        refuseOthers(one, ask.decider)
        await lockOne(tx, 'code', one.offer.id)
        await refuseOverLimit(tx, one, holder)
      } catch (error) {
        if (!(error instanceof Problem)) throw error
        refusal ??= error
        continue
      }
      await keep(tx, one, holder)
      given.push(one.offer.id)
    }
    if (!given.length) throw refusal
    return given
  })
}

/** Lets go of a use that is kept; what is used stays used. */
export async function letCodeGo(tx: AnyDb, holder: Holder, offer: string): Promise<void> {
  const kept = and(heldBy(holder), eq(codeUse.offer, offer), isNull(codeUse.usedAt))
  // Servers forget who is signed in with each removal: what is not there is not removed, or strangers could ask for it.
  if (await tx.$count(codeUse, kept)) await tx.delete(codeUse).where(kept)
}

/**
 * Uses a code for good: the use that is kept, or one taken now, which the limits may refuse. `holder` null: somebody who
 * is not known, as at a counter. `offer`: of several that share a code this one; default the first. To be called in the transaction of what it is used for.
 */
export async function spendCode(
  tx: Tx,
  snapshot: Snapshot,
  { typed, holder, request, offer: of }: { typed: string; holder: Holder | null; request?: string; offer?: string },
): Promise<string> {
  const opened = await offersOf(tx, snapshot, typed)
  const found = of === undefined ? opened[0] : opened.find(one => one.offer.id === of)
  if (!found) throw new Problem('no-such-code', {}, { at: '/code' })
  const { offer, single } = found
  const nobody: Holder = { guest: '' }
  await lockOne(tx, 'code', offer.id)
  if (request !== undefined && (await tx.$count(codeUse, eq(codeUse.request, request)))) return offer.id
  if (holder || offer.uses?.person === undefined) await refuseOverLimit(tx, found, holder ?? nobody)
  else await refuseOverLimit(tx, { ...found, offer: { ...offer, uses: { ...offer.uses, person: undefined } } }, nobody)
  const used = {
    usedAt: clockDate(),
    until: null,
    word: offer.code!,
    codeId: single?.id ?? null,
    ...(request === undefined ? {} : { request }),
  }
  const kept = holder
    ? await tx
        .update(codeUse)
        .set(used)
        .where(and(heldBy(holder), eq(codeUse.offer, offer.id), isNull(codeUse.usedAt)))
        .returning({ id: codeUse.id })
    : []
  if (!kept.length)
    await tx.insert(codeUse).values({
      offer: offer.id,
      ...(holder && 'person' in holder ? { personId: holder.person } : holder ? { guest: holder.guest } : {}),
      takenAt: clockDate(),
      ...used,
    })
  return offer.id
}

/** What a guest gave becomes theirs when they sign in, as far as the limits let one person have it. */
export async function bringCodes(db: AnyDb, snapshot: Snapshot, guest: string, person: string): Promise<void> {
  await inTransaction(db, async tx => {
    const theirs = and(eq(codeUse.guest, guest), isNull(codeUse.usedAt), gt(codeUse.until, clockDate()))
    if (!(await tx.$count(codeUse, theirs))) return
    const kept = await tx.delete(codeUse).where(theirs).returning()
    for (const { offer: id, codeId } of kept.sort((a, b) => (a.offer < b.offer ? -1 : 1))) {
      const offer = snapshot.rules.rulebook.offers?.find(one => one.id === id && isLive(one))
      if (!offer) continue
      const found: Found = { offer, ...(codeId === null ? {} : { single: await singleOf(tx, codeId) }) }
      await lockOne(tx, 'code', id)
      const refusal = await refuseOverLimit(tx, found, { person }).catch((error: unknown) => error)
      if (refusal instanceof Problem) continue
      if (refusal) throw refusal
      await keep(tx, found, { person })
    }
  })
}
async function singleOf(tx: AnyDb, id: number): Promise<NonNullable<Found['single']>> {
  const [row] = await tx
    .select({ most: codeBatch.most, owner: singleCode.personId })
    .from(singleCode)
    .innerJoin(codeBatch, eq(codeBatch.id, singleCode.batch))
    .where(and(eq(singleCode.id, id), isNull(singleCode.stoppedAt)))
  // One that was stopped meanwhile works no more.
  return { id, most: row?.most ?? 0, owner: row?.owner ?? null }
}

/**
 * The code of a person's own among those made for an offer that is for them: the same each time they ask. Throws
 * `no-codes-left` once all are given out.
 */
export async function ownCode(db: AnyDb, ask: UseAsk, offerId: string, person: string): Promise<string> {
  const offer = ask.snapshot.rules.rulebook.offers?.find(one => one.id === offerId && isLive(one) && isSingle(one))
  if (!offer || !ask.decider.admits(offer.for ?? everyone)) throw new Problem('no-such-code')
  return inTransaction(db, async tx => {
    await lockOne(tx, 'code', offerId)
    const ofOffer = and(eq(singleCode.offer, offerId), isNull(singleCode.stoppedAt))
    // One that was handed out on paper may be used, or kept by whoever typed it: it is nobody else's any more.
    const isUntouched = sql`not exists (select from code_use u where u.code_id = ${singleCode.id})`
    const [known] = await tx
      .select({ code: singleCode.code })
      .from(singleCode)
      .where(and(ofOffer, eq(singleCode.personId, person)))
    if (known) return known.code
    const [free] = await tx
      .select({ id: singleCode.id, code: singleCode.code })
      .from(singleCode)
      .where(and(ofOffer, isNull(singleCode.givenAt), isUntouched))
      .orderBy(asc(singleCode.id))
      .limit(1)
    if (!free) throw new Problem('no-codes-left')
    await tx.update(singleCode).set({ personId: person, givenAt: clockDate() }).where(eq(singleCode.id, free.id))
    return free.code
  })
}

/** A code somebody keeps, or that was shown to them as theirs. */
export interface KeptCode {
  offer: string
  code: string
  /** ISO 8601; without it, it is not given yet. */ until?: string
}

/** What somebody keeps now, and the codes of their own that they have not given. Of offers that are no longer there nothing is told. */
export async function whatIsKept(tx: AnyDb, { rules }: Snapshot, holder: Holder): Promise<KeptCode[]> {
  const live = (offer: string) => rules.rulebook.offers?.find(one => one.id === offer && isLive(one))
  const kept = await tx
    .select({ offer: codeUse.offer, word: codeUse.word, single: singleCode.code, until: codeUse.until })
    .from(codeUse)
    .leftJoin(singleCode, eq(singleCode.id, codeUse.codeId))
    .where(and(heldBy(holder), isNull(codeUse.usedAt), gt(codeUse.until, clockDate())))
    .orderBy(asc(codeUse.id))
  const found: KeptCode[] = kept
    .filter(({ offer, word }) => foldedCode(live(offer)?.code ?? '') === foldedCode(word))
    .map(({ offer, word, single, until }) => ({ offer, code: single ?? word, until: until!.toISOString() }))
  if (!('person' in holder)) return found
  const own = await tx
    .select({ offer: singleCode.offer, code: singleCode.code })
    .from(singleCode)
    .where(
      and(
        eq(singleCode.personId, holder.person),
        isNull(singleCode.stoppedAt),
        sql`not exists (select from code_use u where u.code_id = ${singleCode.id} and u.used_at is not null)`,
      ),
    )
    .orderBy(asc(singleCode.id))
  return [...found, ...own.filter(one => live(one.offer) && !found.some(kept => kept.code === one.code))]
}

/** The uses a guest keeps now. */
export async function codesOfGuest(db: AnyDb, guest: string): Promise<NonNullable<Visitor['codes']>> {
  const rows = await db
    .select({ offer: codeUse.offer, code: codeUse.word, until: codeUse.until })
    .from(codeUse)
    .where(and(eq(codeUse.guest, guest), isNull(codeUse.usedAt), gt(codeUse.until, clockDate())))
  return rows.map(({ until, ...rest }) => ({ ...rest, until: until!.toISOString() }))
}

/** What is kept no longer, thrown away. */
export async function dropOldCodes(db: AnyDb): Promise<void> {
  await db.delete(codeUse).where(and(isNull(codeUse.usedAt), lte(codeUse.until, clockDate())))
}
