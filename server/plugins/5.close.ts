/** The last to close, since hooks run in the order of these files: what is under way before still needs the database. */
import { defineNitroPlugin } from 'nitropack/runtime'
import { closeConnections } from '../db/database'
import { unfollow } from '../services/live/snapshot'

export default defineNitroPlugin(nitro => {
  nitro.hooks.hook('close', async () => {
    await unfollow()
    await closeConnections()
  })
})
