import { defineEventHandler, getRouterParam, sendNoContent } from 'h3'
import { db } from '../../../db/database'
import { readJson, staffCaller } from '../../../request'
import { Problem } from '../../../problem'
import { authorise } from '../../../services/authorise'
import { saveSettings } from '../../../services/site-settings'
import { settingGroups } from '../../../services/settings'
import type { SettingGroup } from '../../../services/settings'
import { reload } from '../../../services/snapshot'

export default defineEventHandler(async (event) => {
  const { actor, rights, snapshot } = await staffCaller(event)
  const group = getRouterParam(event, 'group') as SettingGroup
  if (!Object.hasOwn(settingGroups, group)) throw new Problem('not-found', 'There are no such settings.')
  authorise(rights, { kind: `settings-${group}`, action: 'change' })
  await saveSettings(db(), snapshot.rules.rulebook, group, await readJson(event, settingGroups[group]), actor)
  await reload()
  return sendNoContent(event)
})
