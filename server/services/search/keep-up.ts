/** What is found keeps up with the live edition, and with the words of files. */
import { inTransaction } from '../../db/turn'
import type { AnyDb } from '../../db/database'
import { indexSearch } from './index-texts'
import { readFiles } from './read-files'

export async function keepSearchUp(db: AnyDb): Promise<void> {
  await inTransaction(db, tx => indexSearch(tx))
  while (await readFiles(db));
}
