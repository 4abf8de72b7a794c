/** Makes a site out of nothing: its settings, first edition, content and people. */
import { entriesOf } from '../../../core/rulebook/rulebook'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import type { Database, Tx } from '../../db/database'
import { activity } from '../../db/activity-table'
import {
  application,
  applicationForm,
  block,
  edition,
  firm,
  firmMember,
  firmRole,
  membership,
  menu,
  menuItem,
  page,
  person,
  product,
  roleGrant,
  ruleEntry,
  siteState,
  staffRule as staffRuleTable,
} from '../../db/schema'
import { wexlowFrame, wexlowMenu, wexlowPages } from '../../../demo/wexlow/content'
import type { DemoBlock, DemoPage } from '../../../demo/wexlow/content'
import { demoPassword, wexlowPeople } from '../../../demo/wexlow/people'
import { wexlowActivity } from '../../../demo/wexlow/activity'
import {
  wexlowApplications,
  wexlowFirm,
  wexlowForms,
  wexlowProducts,
  wexlowSettings,
  wexlowStaffRules,
} from '../../../demo/wexlow/people-rules'
import { wexlowRulebook } from '../../../demo/wexlow/rulebook'
import { staffRule } from '../../../core/staff/staff-rule'
import { clockDate, clockMs } from '../../clock'
import { hashPassword } from '../entrance/passwords'
import { writeSetting } from '../site/settings'

const homeTitles = {
  levels: 'Your levels',
  yours: 'Yours to open',
  firm: 'Your firm',
  applications: 'Asking for more',
  profile: 'Profile',
  sessions: 'Signed in at',
}

async function isSetUp(db: Tx): Promise<boolean> {
  return (await db.select({ id: siteState.id }).from(siteState)).length > 0
}

async function firstEdition(tx: Tx, name: string, book: Rulebook): Promise<void> {
  await tx.insert(siteState).values({ name, timezone: 'Europe/Dublin', currency: 'EUR', liveEdition: 1 })
  await tx.insert(edition).values({ number: 1, publishedBy: 'Bravik', note: 'The first edition.' })
  await tx
    .insert(ruleEntry)
    .values(entriesOf(book).map((entry, i) => ({ ...entry, position: i + 1, editionFrom: 1, changedBy: 'Bravik' })))
}

/** Loads Wexlow Mill; a second time changes nothing. Returns whether anything was loaded. */
export async function setUpDemo(db: Database): Promise<boolean> {
  if (await isSetUp(db)) return false
  // One hash for all of them: the password is in the README, so there is nothing to keep apart.
  const passwordHash = await hashPassword(demoPassword)
  await db.transaction(async tx => {
    await firstEdition(tx, 'Wexlow Mill', wexlowRulebook)
    await insertPages(tx, wexlowPages, null)
    for (const [position, one] of wexlowFrame.entries())
      await insertBlock(tx, one.block, { frame: one.frame }, position)
    await tx.insert(menu).values({ id: 'main', title: 'Main menu' })
    await tx
      .insert(menuItem)
      .values(
        wexlowMenu.map((item, position) => ({
          id: item.id,
          menuId: 'main',
          label: item.label,
          toKind: 'page',
          toId: item.to.page,
          whenRefused: item.whenRefused ?? null,
          position,
        })),
      )
    await tx.insert(person).values(
      wexlowPeople.map(({ id, name, email, levels, joinedDaysAgo }) => {
        const since =
          joinedDaysAgo === undefined
            ? new Date(levels?.[0]?.since ?? '2026-01-05T09:00:00Z')
            : new Date(clockMs() - joinedDaysAgo * 86_400_000)
        return { id, name, email, passwordHash, createdAt: since, confirmedAt: since, approvedAt: since }
      }),
    )
    const held = wexlowPeople.flatMap(one =>
      (one.levels ?? []).map(level => ({
        personId: one.id,
        level: level.level,
        since: new Date(level.since),
        until: level.until ? new Date(level.until) : null,
        grantedBy: 'demo',
        source: 'demo' as const,
      })),
    )
    await tx.insert(membership).values(held)
    await tx
      .insert(roleGrant)
      .values(
        wexlowPeople.flatMap(one => (one.roles ?? []).map(role => ({ personId: one.id, role, grantedBy: 'demo' }))),
      )
    await insertMill(tx)
  })
  return true
}

/** What the mill has besides pages and people: staff rules, settings, a firm, forms, a store, and a month of activity. */
async function insertMill(tx: Tx): Promise<void> {
  await tx
    .insert(staffRuleTable)
    .values(wexlowStaffRules.map(rule => ({ role: rule.role, body: staffRule.parse(rule) })))
  for (const [group, body] of Object.entries(wexlowSettings)) await writeSetting(tx, group, body, 'demo')
  // The bundled stand-in takes every mail, so the demo may ask to confirm by mail.
  await writeSetting(tx, 'mail-check', { server: 'stand-in', worksSince: clockMs() }, 'demo')
  await tx.insert(firm).values({ id: wexlowFirm.id, name: wexlowFirm.name })
  await tx.insert(firmMember).values({ personId: wexlowFirm.owner, firmId: wexlowFirm.id, owner: true })
  await tx.insert(firmRole).values(wexlowFirm.roles.map(role => ({ firmId: wexlowFirm.id, role, grantedBy: 'demo' })))
  await tx.insert(applicationForm).values(wexlowForms)
  await tx.insert(application).values(wexlowApplications.map(one => ({ ...one, createdAt: clockDate() })))
  await tx.insert(product).values(wexlowProducts)
  const rows = wexlowActivity(clockMs())
  for (let i = 0; i < rows.length; i += 1000) await tx.insert(activity).values(rows.slice(i, i + 1000))
}

/** An operator's own site: a keeper's role, a front page, and nothing else. */
export async function setUpEmpty(db: Database): Promise<boolean> {
  if (await isSetUp(db)) return false
  await db.transaction(async tx => {
    await firstEdition(tx, 'My site', {
      bravik: 'rulebook/1',
      roles: [{ id: 'keeper', name: 'Keeper', staff: true, note: 'Holds the master key.' }],
      tiers: [
        { id: 'guest', name: 'Guest', note: 'no account', visitor: { person: null } },
        { id: 'signed-in', name: 'Signed in', note: 'no level', visitor: { person: { id: 'tier-signed-in' } } },
      ],
      settings: { masterKeys: ['keeper'] },
    })
    // Nobody signs up before the operator opens the door.
    await writeSetting(tx, 'sign-up', { mode: 'closed' }, 'Bravik')
    await tx.insert(menu).values({ id: 'main', title: 'Main menu' })
    await insertPages(
      tx,
      [
        {
          id: 'front',
          path: '/',
          title: 'A new site',
          summary: '',
          blocks: [
            {
              id: 'front-text',
              kind: 'text',
              body: { markdown: 'This page is yours to write: sign in and open the loft.' },
            },
          ],
        },
        {
          id: 'account',
          path: '/account',
          title: 'Your account',
          summary: '',
          blocks: [
            { id: 'account-card', kind: 'account', body: {} },
            {
              id: 'account-home',
              kind: 'panels',
              body: {},
              inner: (['levels', 'yours', 'firm', 'applications', 'profile', 'sessions'] as const).map(shows => ({
                id: `home-${shows}`,
                kind: 'panel',
                title: homeTitles[shows],
                body: { shows },
              })),
            },
          ],
        },
      ],
      null,
    )
    await tx.insert(menuItem).values([
      { id: 'm-front', menuId: 'main', label: 'Front page', toKind: 'page', toId: 'front', position: 0 },
      { id: 'm-account', menuId: 'main', label: 'Account', toKind: 'page', toId: 'account', position: 1 },
    ])
  })
  return true
}

async function insertPages(tx: Tx, pages: DemoPage[], parentId: string | null): Promise<void> {
  for (const [position, one] of pages.entries()) {
    await tx
      .insert(page)
      .values({ id: one.id, path: one.path, parentId, title: one.title, summary: one.summary, position })
    for (const [place, inner] of one.blocks.entries()) await insertBlock(tx, inner, { pageId: one.id }, place)
    await insertPages(tx, one.below ?? [], one.id)
  }
}

async function insertBlock(
  tx: Tx,
  one: DemoBlock,
  place: { pageId: string } | { blockId: string } | { frame: 'header' | 'banner' | 'footer' },
  position: number,
): Promise<void> {
  await tx
    .insert(block)
    .values({
      id: one.id,
      kind: one.kind,
      title: one.title ?? '',
      summary: one.summary ?? '',
      body: one.body,
      oneOf: one.oneOf ?? false,
      position,
      ...place,
    })
  for (const [inside, inner] of (one.inner ?? []).entries()) await insertBlock(tx, inner, { blockId: one.id }, inside)
}
