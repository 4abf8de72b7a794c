/** `bravik export FILE`: the running site's rulebook, inventory and tiers, as a case file without cases. */
import { existsSync, readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import type { CaseFile } from '../core/cases/case-file'
import { connect } from '../server/db/database'
import { readInventory } from '../server/services/rules/inventory'
import { bookOf, entriesAt } from '../server/services/rules/rulebook-store'
import { FileProblem } from './read-file'

/** The database of the site: DATABASE_URL, or the one a running `npm start` noted. */
export function databaseUrl(root: string): string {
  if (process.env.DATABASE_URL) return process.env.DATABASE_URL
  const note = join(resolve(process.env.BRAVIK_DATA ?? join(root, '.data')), 'running.json')
  if (!existsSync(note))
    throw new FileProblem('No running site was found: start it with `npm start`, or set DATABASE_URL.')
  return (JSON.parse(readFileSync(note, 'utf8')) as { url: string }).url
}

/** `edition` is a number, `'live'` or `'draft'`. */
export async function exportCase(url: string, edition: number | 'live' | 'draft'): Promise<CaseFile> {
  const connection = connect(url, 1)
  try {
    return await connection.db.transaction(
      async tx => {
        const { site, liveEdition } = await readInventory(tx)
        const number = edition === 'live' ? liveEdition : edition === 'draft' ? liveEdition + 1 : edition
        if (number < 1 || number > liveEdition + 1)
          throw new FileProblem(`There is no edition ${number}: the newest is ${liveEdition}.`)
        const book = bookOf(await entriesAt(tx, number))
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
