import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { z } from 'zod'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { Problem } from '../../../problem'
import { authorise } from '../../../services/staff/authorise'
import { saveIdentity, saveSettings } from '../../../services/site/site-settings'
import { settingGroups } from '../../../services/site/settings'
import type { SettingGroup } from '../../../services/site/settings'
import { reload } from '../../../services/rules/snapshot'

/** A part of a group of settings; what is left out stays as it was. */
const part = z.record(z.string().max(100), z.unknown())

export default defineEventHandler(async event => {
  const { actor, rights } = await staffCaller(event)
  const group = getRouterParam(event, 'group') as SettingGroup | 'site'
  if (group !== 'site' && !Object.hasOwn(settingGroups, group))
    throw new Problem('not-found', 'There are no such settings.')
  authorise(rights, { kind: `settings-${group}`, action: 'change' })
  const change = await readJson(event, part)
  if (group === 'site') await saveIdentity(db(), change, actor)
  else await saveSettings(db(), group, change, actor)
  await reload()
  return sendNoContent(event)
})
