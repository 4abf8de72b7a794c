/** Starts what waits and repeats: the job queue, the mail stand-in, the months of activity. */
import { dropOldSteps } from '../services/editions/step-journal'
import { defineNitroPlugin } from 'nitropack/runtime'
import { besideDb } from '../db/database'
import { databasePrepared } from '../database-prepared'
import { environment } from '../environment'
import { logFault } from '../log'
import { dropOldMonths, flushActivity, makeMonths } from '../services/activity/activity'
import { dropOldAsked, flushAsked } from '../services/activity/asked-addresses'
import { publishDue } from '../services/editions/planned'
import { startJobs, stopJobs } from '../jobs/jobs'
import { dropOldFetches } from '../services/files/fetches'
import { dropOldCodes } from '../services/shop/given-codes'
import { dropOldReserved } from '../services/shop/reserved'
import { dropUnnamedFiles } from '../services/files/files'
import { readFilesThrough } from '../services/files/read-through'
import { dropOldUploads } from '../services/files/uploads'
import { dropUnnamedPictures } from '../services/files/pictures'
import { forgetExpiredMail, sendDueMail } from '../services/mail/mail'
import { usesStandIn, useStandIn } from '../mail-server'
import { snapshot } from '../services/live/snapshot'
import { startMailStandIn } from '../services/mail/mail-stand-in'
import { dropOldLinks } from '../services/secrets/one-time-links'
import { renewMemberships } from '../services/memberships/payments'
import { dropOldBaskets } from '../services/orders/baskets'
import { giveUpUnpaid } from '../services/orders/place'
import { orderWorld } from '../services/orders/world'
import { dropOldTills } from '../services/orders/tills'
import { sendDueNotices } from '../services/payments/stand-in'
import { dropOldSessions } from '../services/entrance/sessions'
import { readSettings } from '../services/settings/settings'
import { forgetUnconfirmed } from '../services/entrance/unconfirmed'
import { dropOldStrangers } from '../services/entrance/stranger'
import { readSites } from '../services/bring-site/read-on'
import { dropOldReadings } from '../services/bring-site/readings'
import { keepSearchUp } from '../services/search/keep-up'
import { dropOldTries } from '../services/secrets/throttle'

/** Milliseconds. */
const retryMs = 5000

/** Each part by itself: one that waits for a lock in vain keeps no other from being done. */
async function upkeep(): Promise<void> {
  const database = besideDb()
  const parts: Record<string, () => Promise<unknown>> = {
    months: () => makeMonths(database),
    'old months': async () => dropOldMonths(database, (await readSettings(database)).activity.keepMonths),
    tries: () => dropOldTries(database),
    links: () => dropOldLinks(database),
    sessions: () => dropOldSessions(database),
    mail: () => forgetExpiredMail(database),
    pictures: () => dropUnnamedPictures(database),
    files: () => dropUnnamedFiles(database),
    uploads: () => dropOldUploads(database),
    fetches: () => dropOldFetches(database),
    codes: () => dropOldCodes(database),
    reserved: () => dropOldReserved(database),
    baskets: () => dropOldBaskets(database),
    steps: () => dropOldSteps(database),
    tills: () => dropOldTills(database),
    asked: () => dropOldAsked(database),
    readings: () => dropOldReadings(database),
    strangers: () => dropOldStrangers(database),
    unconfirmed: () => forgetUnconfirmed(database),
  }
  for (const [name, work] of Object.entries(parts)) await work().catch(error => logFault(`upkeep: ${name}`, error))
}

export default defineNitroPlugin(nitro => {
  const url = environment().DATABASE_URL
  if (!url) return
  let stopMail: (() => Promise<void>) | undefined
  const start = async () => {
    await databasePrepared()
    if (usesStandIn() && !stopMail) {
      const standIn = await startMailStandIn(besideDb)
      useStandIn(standIn.url)
      stopMail = standIn.stop
    }
    // Without its month a row lies in the partition for all others, and is moved later.
    await makeMonths(besideDb()).catch(error => logFault('months', error))
    await startJobs(url, {
      mail: async () => void (await sendDueMail()),
      memberships: async () => {
        await giveUpUnpaid(besideDb(), orderWorld(await snapshot()))
        await renewMemberships()
      },
      editions: async () => void (await publishDue(besideDb())),
      search: () => keepSearchUp(besideDb()),
      'payment-notices': async () => void (await sendDueNotices()),
      upkeep: upkeep,
      'site-reading': () => readSites(besideDb()),
      files: ({ all }) => readFilesThrough(besideDb(), { all: all === true }),
    })
  }
  // The database may be away at that very moment: pages are answered meanwhile, and it is tried again.
  let stopped = false
  const startUntilItWorks = () =>
    start().catch(error => {
      logFault('could not start the jobs', error)
      if (!stopped) setTimeout(() => void startUntilItWorks(), retryMs).unref()
    })
  void startUntilItWorks()
  nitro.hooks.hook('close', async () => {
    stopped = true
    await stopJobs()
    await stopMail?.()
    await flushActivity().catch(() => {})
    await flushAsked().catch(() => {})
  })
})
