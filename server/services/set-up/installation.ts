/** What one installation is: one secret on all its servers, and a program that knows its database. */
import { inTransaction } from '../../db/turn'
import { sql } from 'drizzle-orm'
import { db } from '../../db/database'
import type { AnyDb, Tx } from '../../db/database'
import { lockFor } from '../../db/locks'
import { newestMigration } from '../../db/newest-migration'
import { secret } from '../secrets/tokens'
import { installationGroup, secretHash } from './secret-hash'
import { readOwn, writeSetting } from '../settings/settings'
import { NotStarting } from './not-starting'

/** Every server of a site signs with the same secret, or what one hands out the other refuses. The first to start says which. */
export async function checkSecret(tx: Tx, given = secret()): Promise<void> {
  const hash = secretHash(given)
  const known = await readOwn<{ secretHash: string }>(tx, installationGroup)
  if (!known) return writeSetting(tx, installationGroup, { secretHash: hash }, 'Bravik')
  if (known.secretHash !== hash)
    throw new NotStarting(
      'BRAVIK_SECRET is another than the one this database is used with. Give every server of the site the same: the first one keeps it in the file “secret” of its data folder.',
    )
}

/** A database that a newer program has changed is left alone; one that is behind waits for its migrations. */
export async function checkSchema(tx: AnyDb): Promise<void> {
  const [applied] = await tx.execute<{ newest: string | null }>(
    sql`select max(created_at)::text newest from drizzle.__drizzle_migrations`,
  )
  const newest = Number(applied?.newest ?? 0)
  if (newest > newestMigration)
    throw new NotStarting(
      'The database was changed by a newer version of Bravik. Start that version, or restore a backup of before.',
    )
  if (newest < newestMigration)
    throw new NotStarting(
      'The database is behind this version of Bravik: start it with `npm start`, which brings it up to date.',
    )
}

export async function checkInstallation(): Promise<void> {
  await checkSchema(db())
  await inTransaction(db(), async tx => {
    await lockFor(tx, 'secret')
    await checkSecret(tx)
  })
}
