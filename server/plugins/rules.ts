/** Reads the live rules when the server starts and follows every change from then on. */
import { defineNitroPlugin } from 'nitropack/runtime'
import { connection } from '../db/database'
import { follow, reload } from '../services/rules/snapshot'

export default defineNitroPlugin((nitro) => {
  // While building nothing is served and no database is needed.
  if (!process.env.DATABASE_URL) return
  reload().then(() => follow()).catch((error) => {
    console.error('could not read the rules:', (error as Error).message)
    process.exit(1)
  })
  nitro.hooks.hook('close', () => connection().close())
})
