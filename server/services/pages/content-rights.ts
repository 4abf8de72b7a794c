/** What staff may do to one page or block: by whose it is and by the fields a change touches. */
import { eq } from 'drizzle-orm'
import { CompiledDecider } from '../../../core/gates/compiled-decider'
import type { StaffAction, StaffKindId } from '../../../core/staff/staff-kinds'
import { mayStaff } from '../../../core/staff/staff-rule'
import type { OwnedThing, StaffRights } from '../../../core/staff/staff-rule'
import { clockMs } from '../../clock'
import type { Tx } from '../../db/database'
import { block, page } from '../../db/schema'
import { Problem } from '../../problem'
import { authorise } from '../staff/authorise'
import { staffKindOfBlock } from '../../../core/staff/block-kind'
import type { BlockKind } from './blocks'
import type { BlockChange, PageChange } from './content'
import type { Snapshot } from '../rules/snapshot'
import { visitorOf } from '../people/visitor-of'

export interface Worker {
  rights: StaffRights
  snapshot: Snapshot
}

/** Tells whether whoever made a thing is in an audience; looked up only where some rule asks. */
export async function makerIn(
  tx: Tx,
  { rights, snapshot }: Worker,
  kind: StaffKindId,
  madeBy: string | null,
): Promise<(audience: string) => boolean> {
  if (madeBy === null || !rights.rules.some(rule => rule.kind === kind && rule.whose === 'audience')) return () => false
  const visitor = await visitorOf(tx, madeBy)
  if (!visitor) return () => false
  const decider = new CompiledDecider(
    snapshot.rules,
    { ...visitor, request: { at: new Date(clockMs()).toISOString() } },
    clockMs(),
  )
  return audience => decider.admits({ audience })
}

async function authoriseThing(
  tx: Tx,
  worker: Worker,
  { kind, action, thing, fields }: { kind: StaffKindId; action: StaffAction; thing: OwnedThing; fields?: string[] },
): Promise<void> {
  authorise(worker.rights, {
    kind,
    action,
    thing,
    ...(fields?.length ? { fields } : {}),
    makerIn: await makerIn(tx, worker, kind, thing.madeBy),
  })
}

const changed = (pairs: [field: string, before: unknown, after: unknown][]) => [
  ...new Set(
    pairs
      .filter(([, before, after]) => after !== undefined && JSON.stringify(before) !== JSON.stringify(after))
      .map(([field]) => field),
  ),
]

/** In a transaction that holds the rules' lock the row stays as it was asked about. Answers it. */
export async function authorisePage(
  tx: Tx,
  worker: Worker,
  id: string,
  action: StaffAction,
  input?: PageChange,
): Promise<typeof page.$inferSelect> {
  const [row] = await tx.select().from(page).where(eq(page.id, id))
  if (!row) throw new Problem('not-found')
  const fields =
    input &&
    changed([
      ['title', row.title, input.title],
      ['address', row.path, input.path],
      ['summary', row.summary, input.summary],
      ['place', row.parentId, input.parentId],
      ['place', row.position, input.position],
      ['assignment', row.assignedTo, input.assignedTo],
    ])
  await authoriseThing(tx, worker, { kind: 'pages', action, thing: row, ...(fields ? { fields } : {}) })
  return row
}

/** Pages of an inventory that may be looked at: all, or those whose they are. */
export async function lookablePages(tx: Tx, worker: Worker): Promise<Set<string>> {
  const allowed = new Set<string>()
  for (const row of await tx.select({ id: page.id, madeBy: page.madeBy, assignedTo: page.assignedTo }).from(page)) {
    if (
      mayStaff(worker.rights, {
        kind: 'pages',
        action: 'look',
        thing: row,
        makerIn: await makerIn(tx, worker, 'pages', row.madeBy),
      }).allowed
    )
      allowed.add(row.id)
  }
  return allowed
}

/** Of some blocks those that may be looked at. */
export async function lookableBlocks<B extends OwnedThing & { kind: string }>(
  tx: Tx,
  worker: Worker,
  blocks: readonly B[],
): Promise<B[]> {
  const allowed: B[] = []
  for (const one of blocks) {
    const kind = staffKindOfBlock[one.kind as BlockKind]
    if (
      mayStaff(worker.rights, {
        kind,
        action: 'look',
        thing: one,
        makerIn: await makerIn(tx, worker, kind, one.madeBy),
      }).allowed
    )
      allowed.push(one)
  }
  return allowed
}

export async function authoriseBlock(
  tx: Tx,
  worker: Worker,
  id: string,
  action: StaffAction,
  input?: BlockChange,
): Promise<typeof block.$inferSelect> {
  const [row] = await tx.select().from(block).where(eq(block.id, id))
  if (!row) throw new Problem('not-found')
  const fields =
    input &&
    changed([
      ['title', row.title, input.title],
      ['summary', row.summary, input.summary],
      ['body', row.body, input.body],
      ['place', [row.pageId, row.blockId, row.frame], newPlace(input)],
      ['place', row.position, input.position],
      ['place', row.oneOf, input.oneOf],
      ['assignment', row.assignedTo, input.assignedTo],
    ])
  const kind = staffKindOfBlock[row.kind as BlockKind]
  await authoriseThing(tx, worker, { kind, action, thing: row, ...(fields ? { fields } : {}) })
  // A block turned into another kind is withdrawn as what it was, and one of that kind from then on.
  if (input?.kind && staffKindOfBlock[input.kind] !== kind) {
    await authoriseThing(tx, worker, { kind, action: 'withdraw', thing: row })
    authorise(worker.rights, { kind: staffKindOfBlock[input.kind], action: 'add' })
  }
  return row
}

/** Where a block is put; undefined where it stays. */
const newPlace = ({ pageId, blockId, frame }: BlockChange) =>
  [pageId, blockId, frame].every(place => place === undefined)
    ? undefined
    : [pageId ?? null, blockId ?? null, frame ?? null]

/** For moving a block among those beside it. */
export async function authoriseBlockPlace(tx: Tx, worker: Worker, id: string): Promise<void> {
  const [row] = await tx.select().from(block).where(eq(block.id, id))
  if (!row) throw new Problem('not-found')
  await authoriseThing(tx, worker, {
    kind: staffKindOfBlock[row.kind as BlockKind],
    action: 'change',
    thing: row,
    fields: ['place'],
  })
}
