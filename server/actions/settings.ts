/** Actions on settings. */
import { afterCommit } from '../db/turn'
import { z } from 'zod'
import { mayStaff } from '../../core/staff/staff-rule'
import { Problem } from '../problem'
import { reload } from '../services/live/snapshot'
import { mailWorks } from '../services/mail/mail-check'
import { readSettings, settingGroupIds, settingGroups, writeSetting } from '../services/settings/settings'
import type { SettingGroup, SiteSettings } from '../services/settings/settings'
import { readIdentity, saveIdentity, saveSettings, saveWords, wordsGiven } from '../services/site/site-settings'
import { authorise } from '../services/staff/authorise'
import { firstStepsGroup } from '../services/console/first-steps'
import { leaveTrace } from '../trace'
import { change, look, on, oneOf } from './action'

const settingKinds = [
  'settings-site',
  'settings-sign-up',
  'settings-mail',
  'settings-activity',
  'settings-payment',
  'settings-parts',
  'settings-words',
  'settings-look',
  'settings-files',
  'settings-outside',
  'settings-seller',
] as const

export const settingActions = {
  /** The groups of settings the person may look at, and whether mail works. */
  'GET settings': look({
    right: oneOf(settingKinds, 'look'),
    run: async ({ db, rights }) => {
      const looks = (group: SettingGroup | 'site') =>
        mayStaff(rights, { kind: `settings-${group}`, action: 'look' }).allowed
      const all = await readSettings(db)
      const settings: Partial<Pick<SiteSettings, SettingGroup>> = Object.fromEntries(
        settingGroupIds.filter(looks).map(group => [group, all[group]]),
      )
      return { settings, site: looks('site') ? await readIdentity(db) : undefined, mailWorks: await mailWorks(db) }
    },
  }),
  /** The first steps of a new site are shown to nobody any more. */
  'POST first-steps/dismiss': change({
    right: on('settings-site', 'change'),
    run: async ({ db, actor }) => {
      await writeSetting(db, firstStepsGroup, { shown: false }, actor.name)
      await leaveTrace(db, actor, 'settings.change', 'settings first-steps', { shown: false })
    },
  }),
  /** Words of the public pages in one language: `null` takes one back, what is left out stays. */
  'PUT site-words/:language': change({
    right: on('settings-words', 'change'),
    input: z.strictObject({ words: wordsGiven, offered: z.boolean().optional() }),
    run: async ({ db, input, params, actor }) => {
      await saveWords(db, params.language ?? '', input, actor)
      await afterCommit(reload)
    },
  }),
  'PUT settings/:group': change({
    right: oneOf(settingKinds, 'change'),
    // A part of a group of settings; what is left out stays as it was.
    input: z.record(z.string().max(100), z.unknown()),
    run: async ({ db, input, params, rights, actor }) => {
      const group = params.group as SettingGroup | 'site'
      if (group !== 'site' && !Object.hasOwn(settingGroups, group)) throw new Problem('no-such-settings')
      authorise(rights, { kind: `settings-${group}`, action: 'change' })
      if (group === 'site') await saveIdentity(db, input, actor)
      else await saveSettings(db, group, input, actor)
      await afterCommit(reload)
    },
  }),
}
