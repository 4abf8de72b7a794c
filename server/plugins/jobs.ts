/** Starts what waits and repeats: the job queue, the mail stand-in, the months of activity. */
import { defineNitroPlugin } from 'nitropack/runtime'
import { connection, db } from '../db/database'
import { dropOldMonths, flushActivity, makeMonths } from '../services/activity/activity'
import { startJobs, stopJobs } from '../services/jobs'
import { sendMail, sweepMail, usesStandIn, useStandIn } from '../services/mail/mail'
import { startMailStandIn } from '../services/mail/mail-stand-in'
import type { Notice } from '../services/memberships/memberships'
import { dropOldLinks } from '../services/entrance/one-time-links'
import { renewMemberships, sendNotice } from '../services/memberships/payments'
import { dropOldSessions } from '../services/entrance/sessions'
import { readSettings } from '../services/site/settings'
import { forgetUnconfirmed } from '../services/entrance/sign-up'
import { dropOldTries } from '../services/entrance/throttle'

async function upkeep(): Promise<void> {
  const { activity } = await readSettings(db())
  await makeMonths(db())
  await dropOldMonths(db(), activity.keepMonths)
  await Promise.all([dropOldTries(db()), dropOldLinks(db()), dropOldSessions(db()), forgetUnconfirmed(db())])
}

export default defineNitroPlugin((nitro) => {
  const url = process.env.DATABASE_URL
  if (!url) return
  let stopMail: (() => Promise<void>) | undefined
  const start = async () => {
    if (usesStandIn()) {
      const standIn = await startMailStandIn(connection().db)
      useStandIn(standIn.url)
      stopMail = standIn.stop
    }
    await makeMonths(db())
    await startJobs(url, {
      'mail': data => sendMail(Number(data.id)), 'mail-sweep': sweepMail, 'memberships': renewMemberships, 'upkeep': upkeep,
      'payment-notice': data => sendNotice(data as unknown as Notice),
    })
  }
  start().catch((error) => {
    console.error('could not start the jobs:', (error as Error).message)
    process.exit(1)
  })
  nitro.hooks.hook('close', async () => {
    await flushActivity().catch(() => {})
    await stopJobs()
    await stopMail?.()
  })
})
