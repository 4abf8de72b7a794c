import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { Problem } from '../../../problem'
import { authorise } from '../../../services/staff/authorise'
import { saveSettings } from '../../../services/site/site-settings'
import { settingGroups } from '../../../services/site/settings'
import type { SettingGroup } from '../../../services/site/settings'
import { reload } from '../../../services/rules/snapshot'

export default defineEventHandler(async (event) => {
  const { actor, rights, snapshot } = await staffCaller(event)
  const group = getRouterParam(event, 'group') as SettingGroup
  if (!Object.hasOwn(settingGroups, group)) throw new Problem('not-found', 'There are no such settings.')
  authorise(rights, { kind: `settings-${group}`, action: 'change' })
  await saveSettings(db(), snapshot.rules.rulebook, group, await readJson(event, settingGroups[group]), actor)
  await reload()
  return sendNoContent(event)
})
