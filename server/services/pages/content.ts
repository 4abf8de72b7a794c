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
import { contentChanged } from '../rules/rulebook-store'
import { leaveTrace } from '../trace'
import type { Actor } from '../trace'

export type BlockRow = typeof block.$inferSelect
export type PageRow = typeof page.$inferSelect

export async function pageAt(db: Tx, path: string): Promise<PageRow | undefined> {
  return (await db.select().from(page).where(eq(page.path, path)))[0]
}

/** A page's blocks, those nested in them and those of the frame, in order. One query. */
export const blocksFor = (db: Tx, pageId: string | null) => standingBlocks(db, sql`page_id = ${pageId} or frame is not null`)

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
const pagePath = z.string().max(300)
  .refine(value => isSitePath(value) && !/[?#\s%]/.test(value) && (value === '/' || !value.endsWith('/')), 'A path such as /techniques/welts.')
  .refine(value => !isOwnAddress(value), 'The application answers this address itself.')

export const pageInput = z.strictObject({
  id, path: pagePath, parentId: id.nullable().optional(), title: z.string().min(1).max(200), summary: z.string().max(1000).optional(), position: z.number().optional(),
  assignedTo: z.string().max(100).nullable().optional(),
})
export type PageInput = z.infer<typeof pageInput>

export const blockInput = z.strictObject({
  id, kind: z.enum(blockKinds as [BlockKind, ...BlockKind[]]), pageId: id.nullable().optional(), blockId: id.nullable().optional(), frame: z.enum(['header', 'banner', 'footer']).nullable().optional(),
  title: z.string().max(200).optional(), summary: z.string().max(1000).optional(), body: z.unknown(), oneOf: z.boolean().optional(), position: z.number().optional(),
  assignedTo: z.string().max(100).nullable().optional(),
}).superRefine((value, context) => {
  if ([value.pageId, value.blockId, value.frame].filter(place => place != null).length !== 1) context.addIssue({ code: 'custom', path: [], message: 'A block stands in one page, one block or one part of the frame.' })
  const body = blockBodies[value.kind].safeParse(value.body)
  for (const issue of body.success ? [] : body.error.issues) context.addIssue({ code: 'custom', path: ['body', ...issue.path], message: issue.message })
})
export type BlockInput = z.infer<typeof blockInput>

export async function savePage(db: Database, input: PageInput, actor: Actor, make: boolean): Promise<void> {
  await db.transaction(async (tx) => {
    const [holder] = await tx.select({ id: page.id, title: page.title }).from(page).where(eq(page.path, input.path))
    if (holder && holder.id !== input.id) throw new Problem('taken', `“${holder.title}” already has the address ${input.path}.`, { at: '/path', holder: holder.id })
    const existing = await tx.select({ id: page.id }).from(page).where(eq(page.id, input.id))
    if (make && existing.length) throw new Problem('taken', `There is a page with the id ${input.id} already.`, { at: '/id' })
    if (!make && !existing.length) throw new Problem('not-found')
    await refuseBadParent(tx, input)
    const values = { path: input.path, parentId: input.parentId ?? null, title: input.title, ...(input.summary === undefined ? {} : { summary: input.summary }), ...(input.position === undefined ? {} : { position: input.position }), ...(input.assignedTo === undefined ? {} : { assignedTo: input.assignedTo }) }
    await tx.insert(page).values({ id: input.id, ...values, madeBy: actor.id }).onConflictDoUpdate({ target: page.id, set: values })
    await contentChanged(tx)
    await leaveTrace(tx, actor, make ? 'page.add' : 'page.change', `page ${input.id}`, values)
  })
}

async function refuseBadParent(tx: Tx, { id: own, parentId }: PageInput): Promise<void> {
  const seen = new Set([own])
  for (let at = parentId ?? null; at !== null;) {
    if (seen.has(at)) throw new Problem('bad-input', 'A page cannot lie under itself.', { at: '/parentId' })
    seen.add(at)
    const [above] = await tx.select({ parentId: page.parentId }).from(page).where(eq(page.id, at))
    if (!above) throw new Problem('bad-input', `There is no page “${at}”.`, { at: '/parentId' })
    at = above.parentId
  }
}

export async function removePage(db: Database, pageId: string, actor: Actor): Promise<void> {
  await db.transaction(async (tx) => {
    const below = await pagesBelow(tx, pageId)
    if (below.length) throw new Problem('in-use', `${below.length} ${below.length === 1 ? 'page lies' : 'pages lie'} under it: ${below.map(one => one.title).join(', ')}.`)
    const gone = await tx.delete(page).where(eq(page.id, pageId)).returning({ id: page.id })
    if (!gone.length) throw new Problem('not-found')
    await contentChanged(tx)
    await leaveTrace(tx, actor, 'page.remove', `page ${pageId}`)
  })
}

export async function saveBlock(db: Database, input: BlockInput, actor: Actor, make: boolean): Promise<void> {
  await db.transaction(async (tx) => {
    const existing = await tx.select({ id: block.id }).from(block).where(eq(block.id, input.id))
    if (make && existing.length) throw new Problem('taken', `There is a block with the id ${input.id} already.`, { at: '/id' })
    if (!make && !existing.length) throw new Problem('not-found')
    await refuseBadPlace(tx, input)
    const values = {
      kind: input.kind, pageId: input.pageId ?? null, blockId: input.blockId ?? null, frame: input.frame ?? null, body: input.body,
      title: input.title ?? '', summary: input.summary ?? '', oneOf: input.oneOf ?? false, ...(input.position === undefined ? {} : { position: input.position }), ...(input.assignedTo === undefined ? {} : { assignedTo: input.assignedTo }),
    }
    await tx.insert(block).values({ id: input.id, ...values, madeBy: actor.id }).onConflictDoUpdate({ target: block.id, set: values })
    await contentChanged(tx)
    await leaveTrace(tx, actor, make ? 'block.add' : 'block.change', `block ${input.id}`)
  })
}

async function refuseBadPlace(tx: Tx, { id: own, pageId, blockId }: BlockInput): Promise<void> {
  if (pageId != null && !(await tx.select({ id: page.id }).from(page).where(eq(page.id, pageId))).length) throw new Problem('bad-input', `There is no page “${pageId}”.`, { at: '/pageId' })
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
export async function moveBlock(db: Database, { id: blockId, before, actor }: { id: string, before: string | null, actor: Actor }): Promise<void> {
  await db.transaction(async (tx) => {
    const [moved] = await tx.select().from(block).where(eq(block.id, blockId))
    if (!moved) throw new Problem('not-found')
    const place = sql`page_id is not distinct from ${moved.pageId} and block_id is not distinct from ${moved.blockId} and frame is not distinct from ${moved.frame}`
    const others = (await tx.select({ id: block.id }).from(block).where(place).orderBy(asc(block.position), asc(block.id)).for('update')).filter(one => one.id !== blockId)
    const at = before === null ? others.length : others.findIndex(one => one.id === before)
    if (at < 0) throw new Problem('bad-input', `“${before}” does not stand beside it.`, { at: '/before' })
    others.splice(at, 0, { id: blockId })
    await tx.execute(sql`update block set position = given.position from ${rowsOf(others.map((one, position) => ({ id: one.id, position })), 'id text, position real')} where block.id = given.id`)
    await contentChanged(tx)
    await leaveTrace(tx, actor, 'block.move', `block ${blockId}`, { before })
  })
}

export async function removeBlock(db: Database, blockId: string, actor: Actor): Promise<void> {
  await db.transaction(async (tx) => {
    const gone = await tx.delete(block).where(eq(block.id, blockId)).returning({ id: block.id })
    if (!gone.length) throw new Problem('not-found')
    await contentChanged(tx)
    await leaveTrace(tx, actor, 'block.remove', `block ${blockId}`)
  })
}
