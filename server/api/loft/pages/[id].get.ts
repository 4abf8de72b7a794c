import { eq } from 'drizzle-orm'
import { defineEventHandler, getRouterParam, setResponseHeader } from 'h3'
import { db } from '../../../db/database'
import { page } from '../../../db/schema'
import { Problem } from '../../../problem'
import { staffCaller } from '../../../request'
import { authorisePage, lookableBlocks } from '../../../services/pages/content-rights'
import { blocksFor } from '../../../services/pages/content'

/** A page with its blocks, as staff edit them. */
export default defineEventHandler(async event => {
  const worker = await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  const id = getRouterParam(event, 'id') ?? ''
  const [found] = await db().select().from(page).where(eq(page.id, id))
  if (!found) throw new Problem('not-found')
  await authorisePage(db(), worker, id, 'look')
  return {
    page: found,
    blocks: await lookableBlocks(
      db(),
      worker,
      (await blocksFor(db(), id)).filter(block => block.frame === null),
    ),
  }
})
