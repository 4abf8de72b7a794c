/** What the server knows of the first steps of a new site; the rest the console sees in the draft. */
import { inArray } from 'drizzle-orm'
import type { AnyDb } from '../../db/database'
import { setting } from '../../db/schema'
import { isMailChecked, mailCheckGroup } from '../../mail-server'

/** The application's own group of settings that says whether they are shown. */
export const firstStepsGroup = 'first-steps'

/** Null where they are not shown: of the demo, of a site from before, and once somebody did without them. */
export async function firstStepsOf(tx: AnyDb): Promise<{ mail: boolean; door: boolean } | null> {
  const rows = await tx
    .select()
    .from(setting)
    .where(inArray(setting.group, [firstStepsGroup, 'sign-up', mailCheckGroup]))
  const shown = (rows.find(row => row.group === firstStepsGroup)?.body as { shown?: boolean } | undefined)?.shown
  if (!shown) return null
  // A new site's door is shut by whoever set it up; an operator who keeps it shut has decided so.
  return {
    mail: isMailChecked(rows.find(row => row.group === mailCheckGroup)?.body),
    door: rows.some(row => row.group === 'sign-up' && row.changedBy !== 'Bravik'),
  }
}
