/** Reads the live rules when the server starts and follows every change from then on. */
import { defineNitroPlugin, useStorage } from 'nitropack/runtime'
import { databasePrepared } from '../database-prepared'
import { environment } from '../environment'
import { log, logFault } from '../log'
import { follow, reload } from '../services/live/snapshot'
import { openNetworkFile, readNetworkFile } from '../services/facts/network-country'
import { startServiceStandIn, toolDesk } from '../services/facts/service-stand-in'
import { knownServices, useServiceStandIn } from '../services/facts/services'
import { checkInstallation } from '../services/set-up/installation'

export default defineNitroPlugin(nitro => {
  // While building nothing is served and no database is needed.
  if (!environment().DATABASE_URL) return
  // Whoever asks before the database may be read waits for it too.
  const letAllIn = nitro.hooks.hook('request', () => databasePrepared())
  void databasePrepared().then(letAllIn)
  const start = async () => {
    await databasePrepared()
    await checkInstallation()
    await openNetworkFile().catch((error: unknown) => {
      process.stderr.write(`BRAVIK_NETWORK_FILE cannot be read: ${(error as Error).message}\n`)
      process.exit(1)
    })
    if (environment().BRAVIK_DEMO === 'on') nitro.hooks.hook('close', await startDemoServices())
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

/** What an operator would have outside, bundled with the demo; answers how to stop it. */
async function startDemoServices(): Promise<() => Promise<void>> {
  const networks = await useStorage('assets:demo').getItemRaw<Uint8Array>('networks.mmdb')
  if (networks) readNetworkFile(Buffer.from(networks))
  if (knownServices().has(toolDesk)) return async () => {}
  const standIn = await startServiceStandIn()
  useServiceStandIn(standIn)
  return standIn.stop
}
