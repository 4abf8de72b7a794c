import { defineEventHandler, setResponseHeader } from 'h3'
import { db } from '../../../db/database'
import { staffCaller } from '../../../request'
import { mayStaff } from '../../../../core/staff/staff-rule'
import { mailWorks } from '../../../services/mail/mail-check'
import { readIdentity } from '../../../services/site/site-settings'
import { readSettings, settingGroupIds } from '../../../services/site/settings'

/** The groups of settings the person may look at, and whether mail works. */
export default defineEventHandler(async event => {
  const { rights } = await staffCaller(event)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  const all = await readSettings(db())
  const settings = Object.fromEntries(
    settingGroupIds
      .filter(group => mayStaff(rights, { kind: `settings-${group}`, action: 'look' }).allowed)
      .map(group => [group, all[group]]),
  )
  const site = mayStaff(rights, { kind: 'settings-site', action: 'look' }).allowed
    ? await readIdentity(db())
    : undefined
  return { settings, site, mailWorks: await mailWorks(db()) }
})
