/** What is found keeps up with the live edition, and with the words of files. */
import type { Database } from '../../db/database'
import { indexSearch } from './index-texts'
import { readFiles } from './read-files'

export async function keepSearchUp(db: Database): Promise<void> {
  await db.transaction(tx => indexSearch(tx))
  while (await readFiles(db));
}
