/** `bravik export FILE`: the running site's rulebook, inventory and tiers, as a case file without cases. */
import { existsSync, readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import type { CaseFile } from '../core/cases/case-file'
import { connect } from '../server/db/database'
import { inTransaction } from '../server/db/turn'
import type { Tx } from '../server/db/database'
import { contentsAt, draftContents, readState } from '../server/services/versions/versions'
import type { StoredContents } from '../server/services/versions/versions'
import { FileProblem } from './read-file'

/** The database of the site: DATABASE_URL, or the one a running `npm start` noted. */
export function databaseUrl(root: string): string {
  if (process.env.DATABASE_URL) return process.env.DATABASE_URL
  const note = join(resolve(process.env.BRAVIK_DATA ?? join(root, '.data')), 'running.json')
  if (!existsSync(note))
    throw new FileProblem('No running site was found: start it with `npm start`, or set DATABASE_URL.')
  return (JSON.parse(readFileSync(note, 'utf8')) as { url: string }).url
}

/** What an edition holds, or the draft. */
export async function contentsOf(tx: Tx, edition: number | 'live' | 'draft'): Promise<StoredContents> {
  const state = await readState(tx)
  const number = edition === 'live' ? state.live : edition === 'draft' ? state.live + 1 : edition
  if (number < 1 || number > state.live + 1)
    throw new FileProblem(`There is no edition ${number}: the newest is ${state.live}.`)
  return number > state.live ? draftContents(tx, state) : contentsAt(tx, state, number)
}

/** `edition` is a number, `'live'` or `'draft'`. */
export async function exportCase(url: string, edition: number | 'live' | 'draft'): Promise<CaseFile> {
  const connection = connect(url, 1)
  try {
    return await inTransaction(
      connection.db,
      async tx => {
        const { book, site } = await contentsOf(tx, edition)
        return {
          bravik: 'case/1',
          rulebook: book as unknown as Record<string, unknown>,
          site,
          visitors: Object.fromEntries((book.tiers ?? []).map(tier => [tier.id, tier.visitor])),
          cases: [],
        }
      },
      { isolationLevel: 'repeatable read', accessMode: 'read only' },
    )
  } finally {
    await connection.close()
  }
}
