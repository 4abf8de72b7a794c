/** The newest migration this program brings, as its journal dates it (milliseconds since 1970). */
import journal from './migrations/meta/_journal.json'

export const newestMigration = Math.max(...journal.entries.map(entry => entry.when))
