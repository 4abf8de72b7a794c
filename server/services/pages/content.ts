/** Pages and blocks: reading them for the site, changing them for the console. */
import { asc, eq, sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import { z } from 'zod'
import { idPattern, isSitePath } from '../../../core/rulebook/shapes'
import type { Database, Tx } from '../../db/database'
import { rowsOf } from '../../db/rows-of'
import { block, page } from '../../db/schema'
import { Problem } from '../../problem'
import { blockBodies, blockKinds } from './blocks'
import { isOwnAddress } from '../../../core/site/own-addresses'
import type { BlockKind } from './blocks'
import { staffKindOfBlock } from '../../../core/staff/block-kind'
import { contentChanged, lockRules } from '../rules/rulebook-store'
import { authorise } from '../staff/authorise'
import { authoriseBlock, authoriseBlockPlace, authorisePage } from './content-rights'
import type { Worker } from './content-rights'
import { leaveTrace } from '../trace'
import type { Actor } from '../trace'

export type BlockRow = typeof block.$inferSelect
export type PageRow = typeof page.$inferSelect

export async function pageAt(db: Tx, path: string): Promise<PageRow | undefined> {
  return (await db.select().from(page).where(eq(page.path, path)))[0]
}

/** A page's blocks, those nested in them and those of the frame, in order. One query. */
export const blocksFor = (db: Tx, pageId: string | null) =>
  standingBlocks(db, sql`page_id = ${pageId} or frame is not null`)

/** One block with all that is nested in it. */
export const blockTree = (db: Tx, id: string) => standingBlocks(db, sql`id = ${id}`)

async function standingBlocks(db: Tx, outermost: SQL): Promise<BlockRow[]> {
  const rows = await db.execute(sql`
    with recursive standing as (
      select * from block where ${outermost}
      union all select inner_block.* from block inner_block join standing on inner_block.block_id = standing.id
    ) select id, page_id as "pageId", block_id as "blockId", frame, kind, title, summary, body, one_of as "oneOf", position, made_by as "madeBy", assigned_to as "assignedTo" from standing order by position, id`)
  return rows as unknown as BlockRow[]
}

export async function pagesBelow(db: Tx, id: string): Promise<PageRow[]> {
  return db.select().from(page).where(eq(page.parentId, id)).orderBy(asc(page.position), asc(page.path))
}

const id = z.string().regex(idPattern, 'Small letters, digits and dashes.').max(80)
const pagePath = z
  .string()
  .max(300)
  .refine(
    value => isSitePath(value) && !/[?#\s%]/.test(value) && (value === '/' || !value.endsWith('/')),
    'A path such as /techniques/welts.',
  )
  .refine(value => !isOwnAddress(value), 'The application answers this address itself.')

export const pageInput = z.strictObject({
  id,
  path: pagePath,
  parentId: id.nullable().optional(),
  title: z.string().min(1).max(200),
  summary: z.string().max(1000).optional(),
  position: z.number().optional(),
  assignedTo: z.string().max(100).nullable().optional(),
})
export type PageInput = z.infer<typeof pageInput>
/** What is left out stays as it was. */
export const pageChange = pageInput.omit({ id: true }).partial()
export type PageChange = z.infer<typeof pageChange>

const blockFields = z.strictObject({
  id,
  kind: z.enum(blockKinds as [BlockKind, ...BlockKind[]]),
  pageId: id.nullable().optional(),
  blockId: id.nullable().optional(),
  frame: z.enum(['header', 'banner', 'footer']).nullable().optional(),
  title: z.string().max(200).optional(),
  summary: z.string().max(1000).optional(),
  body: z.unknown(),
  oneOf: z.boolean().optional(),
  position: z.number().optional(),
  assignedTo: z.string().max(100).nullable().optional(),
})

interface Standing {
  pageId?: string | null | undefined
  blockId?: string | null | undefined
  frame?: string | null | undefined
}
const placesIn = ({ pageId, blockId, frame }: Standing) =>
  [pageId, blockId, frame].filter(place => place != null).length
const onePlace = 'A block stands in one page, one block or one part of the frame.'

export const blockInput = blockFields.superRefine((value, context) => {
  if (placesIn(value) !== 1) context.addIssue({ code: 'custom', path: [], message: onePlace })
  for (const issue of bodyIssues(value.kind, value.body))
    context.addIssue({ code: 'custom', path: ['body', ...issue.path], message: issue.message })
})
export type BlockInput = z.infer<typeof blockInput>
/** What is left out stays as it was; where a place is named, it is the only one. */
export const blockChange = blockFields
  .omit({ id: true })
  .partial()
  .superRefine((value, context) => {
    const named = [value.pageId, value.blockId, value.frame].some(place => place !== undefined)
    if (named && placesIn(value) !== 1) context.addIssue({ code: 'custom', path: [], message: onePlace })
  })
export type BlockChange = z.infer<typeof blockChange>

const bodyIssues = (kind: BlockKind, body: unknown) => blockBodies[kind].safeParse(body).error?.issues ?? []

/** Only the keys that are given: what is left out stays as it was. */
const given = <T extends object>(values: T): Partial<T> =>
  Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined)) as Partial<T>

export async function addPage(db: Database, input: PageInput, actor: Actor): Promise<void> {
  await db.transaction(async tx => {
    await lockRules(tx)
    await refuseTakenPath(tx, input.id, input.path)
    if ((await tx.select({ id: page.id }).from(page).where(eq(page.id, input.id))).length)
      throw new Problem('taken', `There is a page with the id ${input.id} already.`, { at: '/id' })
    await refuseBadParent(tx, input.id, input.parentId)
    await tx.insert(page).values({ ...input, madeBy: actor.id })
    await contentChanged(tx)
    await leaveTrace(tx, actor, 'page.add', `page ${input.id}`, input)
  })
}

/** Nobody else changes content meanwhile: what is asked of rows and rights here still holds when it is written. */
export async function changePage(
  db: Database,
  worker: Worker,
  pageId: string,
  change: PageChange,
  actor: Actor,
): Promise<void> {
  await db.transaction(async tx => {
    await lockRules(tx)
    await authorisePage(tx, worker, pageId, 'change', change)
    if (change.path !== undefined) await refuseTakenPath(tx, pageId, change.path)
    await refuseBadParent(tx, pageId, change.parentId)
    const values = given(change)
    if (!Object.keys(values).length) throw nothingGiven()
    await tx.update(page).set(values).where(eq(page.id, pageId))
    await contentChanged(tx)
    await leaveTrace(tx, actor, 'page.change', `page ${pageId}`, values)
  })
}

const nothingGiven = () => new Problem('bad-input', 'Nothing is to be changed.')

async function refuseTakenPath(tx: Tx, own: string, path: string): Promise<void> {
  const [holder] = await tx.select({ id: page.id, title: page.title }).from(page).where(eq(page.path, path))
  if (holder && holder.id !== own)
    throw new Problem('taken', `“${holder.title}” already has the address ${path}.`, { at: '/path', holder: holder.id })
}

async function refuseBadParent(tx: Tx, own: string, parentId: string | null | undefined): Promise<void> {
  const seen = new Set([own])
  for (let at = parentId ?? null; at !== null;) {
    if (seen.has(at)) throw new Problem('bad-input', 'A page cannot lie under itself.', { at: '/parentId' })
    seen.add(at)
    const [above] = await tx.select({ parentId: page.parentId }).from(page).where(eq(page.id, at))
    if (!above) throw new Problem('bad-input', `There is no page “${at}”.`, { at: '/parentId' })
    at = above.parentId
  }
}

export async function removePage(db: Database, worker: Worker, pageId: string, actor: Actor): Promise<void> {
  await db.transaction(async tx => {
    await lockRules(tx)
    await authorisePage(tx, worker, pageId, 'withdraw')
    const below = await pagesBelow(tx, pageId)
    if (below.length)
      throw new Problem(
        'in-use',
        `${below.length} ${below.length === 1 ? 'page lies' : 'pages lie'} under it: ${below.map(one => one.title).join(', ')}.`,
      )
    // What stands on it goes with it.
    for (const one of await standingBlocks(tx, sql`page_id = ${pageId}`))
      await authoriseBlock(tx, worker, one.id, 'withdraw')
    await tx.delete(page).where(eq(page.id, pageId))
    await contentChanged(tx)
    await leaveTrace(tx, actor, 'page.remove', `page ${pageId}`)
  })
}

export async function addBlock(db: Database, worker: Worker, input: BlockInput, actor: Actor): Promise<void> {
  await db.transaction(async tx => {
    await lockRules(tx)
    authorise(worker.rights, { kind: staffKindOfBlock[input.kind], action: 'add' })
    if ((await tx.select({ id: block.id }).from(block).where(eq(block.id, input.id))).length)
      throw new Problem('taken', `There is a block with the id ${input.id} already.`, { at: '/id' })
    await refuseBadPlace(tx, input.id, input)
    await tx.insert(block).values({ ...input, body: input.body, madeBy: actor.id })
    await contentChanged(tx)
    await leaveTrace(tx, actor, 'block.add', `block ${input.id}`)
  })
}

export async function changeBlock(
  db: Database,
  worker: Worker,
  blockId: string,
  change: BlockChange,
  actor: Actor,
): Promise<void> {
  await db.transaction(async tx => {
    await lockRules(tx)
    const before = await authoriseBlock(tx, worker, blockId, 'change', change)
    await refuseBadPlace(tx, blockId, change)
    const values = given(change)
    if (!Object.keys(values).length) throw nothingGiven()
    await refuseBadKind(tx, before, change)
    const moves = placesIn(change) > 0
    await tx
      .update(block)
      .set({
        ...values,
        ...(moves
          ? { pageId: change.pageId ?? null, blockId: change.blockId ?? null, frame: change.frame ?? null }
          : {}),
      })
      .where(eq(block.id, blockId))
    await contentChanged(tx)
    await leaveTrace(tx, actor, 'block.change', `block ${blockId}`)
  })
}

/** The body fits the kind the block will have, and what stands in it stays in something that holds blocks. */
async function refuseBadKind(tx: Tx, before: BlockRow, change: BlockChange): Promise<void> {
  const kind = change.kind ?? (before.kind as BlockKind)
  const [issue] = bodyIssues(kind, change.body === undefined ? before.body : change.body)
  if (issue)
    throw new Problem('bad-input', issue.message, { at: `/body${issue.path.map(part => `/${String(part)}`).join('')}` })
  if (holdsBlocks(kind)) return
  const [inner] = await tx.select({ id: block.id }).from(block).where(eq(block.blockId, before.id)).limit(1)
  if (inner) throw new Problem('in-use', 'Blocks stand in it: move them out first.', { at: '/kind' })
}

const holdsBlocks = (kind: BlockKind) => kind === 'group' || kind === 'panels'

async function refuseBadPlace(
  tx: Tx,
  own: string,
  { pageId, blockId }: Pick<BlockChange, 'pageId' | 'blockId'>,
): Promise<void> {
  if (pageId != null && !(await tx.select({ id: page.id }).from(page).where(eq(page.id, pageId))).length)
    throw new Problem('bad-input', `There is no page “${pageId}”.`, { at: '/pageId' })
  const seen = new Set([own])
  for (let at = blockId ?? null; at !== null;) {
    if (seen.has(at)) throw new Problem('bad-input', 'A block cannot stand in itself.', { at: '/blockId' })
    seen.add(at)
    const [around] = await tx.select({ blockId: block.blockId }).from(block).where(eq(block.id, at))
    if (!around) throw new Problem('bad-input', `There is no block “${at}”.`, { at: '/blockId' })
    at = around.blockId
  }
}

/** Puts a block before another of those beside it, or last of them. */
export async function moveBlock(
  db: Database,
  worker: Worker,
  { id: blockId, before, actor }: { id: string; before: string | null; actor: Actor },
): Promise<void> {
  await db.transaction(async tx => {
    await lockRules(tx)
    await authoriseBlockPlace(tx, worker, blockId)
    const [moved] = await tx.select().from(block).where(eq(block.id, blockId))
    if (!moved) throw new Problem('not-found')
    const place = sql`page_id is not distinct from ${moved.pageId} and block_id is not distinct from ${moved.blockId} and frame is not distinct from ${moved.frame}`
    const others = (
      await tx.select({ id: block.id }).from(block).where(place).orderBy(asc(block.position), asc(block.id))
    ).filter(one => one.id !== blockId)
    const at = before === null ? others.length : others.findIndex(one => one.id === before)
    if (at < 0) throw new Problem('bad-input', `“${before}” does not stand beside it.`, { at: '/before' })
    others.splice(at, 0, { id: blockId })
    await tx.execute(
      sql`update block set position = given.position from ${rowsOf(
        others.map((one, position) => ({ id: one.id, position })),
        'id text, position real',
      )} where block.id = given.id`,
    )
    await contentChanged(tx)
    await leaveTrace(tx, actor, 'block.move', `block ${blockId}`, { before })
  })
}

export async function removeBlock(db: Database, worker: Worker, blockId: string, actor: Actor): Promise<void> {
  await db.transaction(async tx => {
    await lockRules(tx)
    await authoriseBlock(tx, worker, blockId, 'withdraw')
    // What stands in it goes with it.
    for (const inner of await blockTree(tx, blockId))
      if (inner.id !== blockId) await authoriseBlock(tx, worker, inner.id, 'withdraw')
    await tx.delete(block).where(eq(block.id, blockId))
    await contentChanged(tx)
    await leaveTrace(tx, actor, 'block.remove', `block ${blockId}`)
  })
}
