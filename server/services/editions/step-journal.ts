/**
 * What each change of the draft put where, so that whoever did it can take it back: what was said before stands here, on
 * the server, since whoever may change something need not be one who may look at all of it.
 */
import { createHash } from 'node:crypto'
import { and, eq, inArray, lt, sql } from 'drizzle-orm'
import { canonical } from '../../../core/canonical'
import type { VersionedKind } from '../../../core/editions/contents'
import type { Back, Said } from '../../../core/editions/step-back'
import { clockDate } from '../../clock'
import type { AnyDb, Tx } from '../../db/database'
import { draftStep } from '../../db/schema'
import type { Actor } from '../../trace'

/** A version in brief: the same for the same. */
export const briefOf = (said: Said | null): string =>
  said === null
    ? 'nothing'
    : createHash('sha256')
        // As it comes back from the database.
        .update(canonical(JSON.parse(JSON.stringify([said.body, said.content, said.position]))))
        .digest('base64url')

/** More than this is no step: it is gone back from by editions. */
const mostNames = 2000
const mostBytes = 2_000_000
/** Of each person. */
const mostSteps = 200
const keptDays = 30

interface Written {
  put: { kind: VersionedKind; key: string; body: object | null; content: object | null; position: number }
  was: Said | null
}

/** Keeps what was there before, and answers its number; null where nobody can take it back. */
export async function keepStep(tx: Tx, { id: personId }: Actor, written: readonly Written[]): Promise<number | null> {
  if (personId === null || !written.length || written.length > mostNames) return null
  const back = written.map(({ put: { kind, key, body, content, position }, was }): Back => {
    const left = body === null ? null : { body, content: content ?? {}, position }
    return { kind, key, said: was, left: briefOf(left) }
  })
  if (JSON.stringify(back).length > mostBytes) return null
  const [row] = await tx
    .insert(draftStep)
    .values({ personId, madeAt: clockDate(), back })
    .returning({ id: draftStep.id })
  const old = tx
    .select({ id: draftStep.id })
    .from(draftStep)
    .where(eq(draftStep.personId, personId))
    .orderBy(sql`${draftStep.id} desc`)
    .offset(mostSteps)
  await tx.delete(draftStep).where(inArray(draftStep.id, old))
  return row!.id
}

/** Takes a step of theirs out of the journal: it is taken back once. */
export async function takeStep(tx: Tx, personId: string, id: number): Promise<Back[] | null> {
  const [row] = await tx
    .delete(draftStep)
    .where(and(eq(draftStep.id, id), eq(draftStep.personId, personId)))
    .returning({ back: draftStep.back })
  return row?.back ?? null
}

export async function dropOldSteps(db: AnyDb): Promise<void> {
  await db.delete(draftStep).where(lt(draftStep.madeAt, new Date(clockDate().getTime() - keptDays * 86_400_000)))
}
