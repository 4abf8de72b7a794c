/** Reads the live rules when the server starts and follows every change from then on. */
import { defineNitroPlugin } from 'nitropack/runtime'
import { environment } from '../environment'
import { log, logFault } from '../log'
import { follow, reload } from '../services/editions/snapshot'
import { checkInstallation } from '../services/set-up/installation'

export default defineNitroPlugin(() => {
  // While building nothing is served and no database is needed.
  if (!environment().DATABASE_URL) return
  const start = async () => {
    await checkInstallation()
    await reload()
    await follow().catch(error => logFault('could not listen', error))
    log().info('ready')
  }
  start().catch(error => {
    logFault('could not start', error)
    process.stderr.write(
      `${error instanceof Error && error.name === 'NotStarting' ? error.message : 'The rules could not be read: the log says why.'}\n`,
    )
    process.exit(1)
  })
})
