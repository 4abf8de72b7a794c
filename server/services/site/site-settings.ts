/** Changing settings: checked against the rules and against what is known to work. */
import type { z } from 'zod'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import type { Database } from '../../db/database'
import { Problem } from '../../problem'
import { mailWorks } from '../mail/mail-check'
import { bumpContent } from '../rules/rulebook-store'
import { readSettings, writeSetting } from './settings'
import type { SettingGroup, SiteSettings, settingGroups } from './settings'
import { leaveTrace } from '../trace'
import type { Actor } from '../trace'

export async function saveSettings<G extends SettingGroup>(db: Database, book: Rulebook, group: G, body: z.infer<(typeof settingGroups)[G]>, actor: Actor): Promise<void> {
  await db.transaction(async (tx) => {
    const before = (await readSettings(tx))[group]
    if (group === 'sign-up') {
      const wanted = body as SiteSettings['sign-up']
      checkSignUp(book, wanted)
      if (wanted.confirmByMail && !(before as SiteSettings['sign-up']).confirmByMail && !await mailWorks(tx)) throw new Problem('mail-unchecked', 'Check that mail works first: without it nobody could confirm anything.')
    }
    await writeSetting(tx, group, body, actor.name)
    await bumpContent(tx)
    await leaveTrace(tx, actor, 'settings.change', `settings ${group}`, { before, after: body })
  })
}

function checkSignUp(book: Rulebook, { startLevel, startRoles, facts }: SiteSettings['sign-up']): void {
  if (startLevel !== null && !book.levels?.some(level => level.id === startLevel)) throw new Problem('bad-input', `There is no level “${startLevel}” in the live edition.`, { at: '/startLevel' })
  startRoles.forEach((id, i) => {
    const role = book.roles?.find(one => one.id === id)
    if (!role) throw new Problem('bad-input', `There is no role “${id}” in the live edition.`, { at: `/startRoles/${i}` })
    if (role.staff) throw new Problem('bad-input', 'A staff role is handed out by name, never on sign-up.', { at: `/startRoles/${i}` })
  })
  facts.forEach(({ fact }, i) => {
    if (!book.facts?.some(one => one.id === fact)) throw new Problem('bad-input', `There is no fact “${fact}” in the live edition.`, { at: `/facts/${i}/fact` })
  })
}
