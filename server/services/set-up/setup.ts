/** Makes a site out of nothing: its settings, first edition, content and people. */
import { inTransaction } from '../../db/turn'
import { readFile } from 'node:fs/promises'
import { and, eq, sql } from 'drizzle-orm'
import { entriesOf } from '../../../core/rulebook/rulebook'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import type { AnyDb, Tx } from '../../db/database'
import { activity } from '../../db/activity-table'
import {
  application,
  applicationForm,
  edition,
  firm,
  firmMember,
  firmRole,
  membership,
  person,
  roleGrant,
  siteState,
  staffRule as staffRuleTable,
  stock,
  codeBatch,
  singleCode,
  thing as thingTable,
  version,
} from '../../db/schema'
import { foldedCode } from '../../../core/visitor/given-code'
import { newCode } from '../secrets/tokens'
import { wexlowThings } from '../../../demo/wexlow/things'
import { demoPassword, wexlowPeople } from '../../../demo/wexlow/people'
import { wexlowActivity } from '../../../demo/wexlow/activity'
import {
  wexlowApplications,
  wexlowFirm,
  wexlowForms,
  wexlowSettings,
  wexlowStaffRules,
} from '../../../demo/wexlow/people-rules'
import { wexlowFiles } from '../../../demo/wexlow/files'
import { wexlowMakers, wexlowStock } from '../../../demo/wexlow/goods'
import { wexlowPictures } from '../../../demo/wexlow/pictures'
import { insertOrders } from './demo-orders'
import { wexlowCodes } from '../../../demo/wexlow/offers'
import { wexlowRulebook } from '../../../demo/wexlow/rulebook'
import { keptOfText } from '../../../core/pages/text-of'
import { lexiconOf } from '../../../core/sentences/lexicon'
import { staffRule } from '../../../core/staff/staff-rule'
import { clockDate, clockMs } from '../../clock'
import { serverKinds, split } from '../../kinds/kinds'
import type { VersionedThing } from '../../kinds/kinds'
import { indexSearch } from '../search/index-texts'
import { keepBytes } from '../files/files'
import { keepPicture } from '../files/pictures'
import { hashPassword } from '../secrets/passwords'
import { firstStepsGroup } from '../console/first-steps'
import { writeSetting } from '../settings/settings'

const homeTitles = {
  levels: 'Your levels',
  yours: 'Yours to open',
  firm: 'Your firm',
  applications: 'Asking for more',
  profile: 'Profile',
  sessions: 'Signed in at',
}

async function isSetUp(db: AnyDb): Promise<boolean> {
  return (await db.select({ id: siteState.id }).from(siteState)).length > 0
}

/** One thing of the first edition; the order of the list is the order of the site. */
interface FirstThing {
  kind: VersionedThing
  key: string
  thing: Record<string, unknown>
}

async function firstEdition(tx: Tx, name: string, book: Rulebook, things: readonly FirstThing[]): Promise<void> {
  await tx.insert(siteState).values({ name, timezone: 'Europe/Dublin', currency: 'EUR', liveEdition: 1 })
  await tx.insert(edition).values({ number: 1, publishedBy: 'Bravik', note: 'The first edition.' })
  const lexicon = lexiconOf(book, { timezone: 'Europe/Dublin', currency: 'EUR' })
  const rows = [
    ...entriesOf(book),
    ...things.map(({ kind, key, thing: { ...whole } }) => {
      const given = serverKinds[kind].input.parse(whole) as Record<string, unknown>
      const { body, content } = split(kind, {
        ...given,
        ...keptOfText(given, lexicon, clockDate().toISOString().slice(0, 10)),
      })
      return { kind, key, body: { id: key, ...body }, content }
    }),
  ].map((row, i) => ({ ...row, position: i + 1, editionFrom: 1, changedBy: 'Bravik' }))
  for (let i = 0; i < rows.length; i += 1000) await tx.insert(version).values(rows.slice(i, i + 1000))
  await tx.insert(thingTable).values(things.map(({ kind, key }) => ({ kind, key })))
}

/**
 * Loads Wexlow Mill, with its pictures out of the folder of `files`; a second time changes nothing. Returns whether
 * anything was loaded.
 */
export async function setUpDemo(db: AnyDb, files: URL): Promise<boolean> {
  if (await isSetUp(db)) return false
  // One hash for all of them: the password is in the README, so there is nothing to keep apart.
  const passwordHash = await hashPassword(demoPassword)
  await inTransaction(db, async tx => {
    await firstEdition(tx, 'Wexlow Mill', wexlowRulebook, wexlowThings())
    await tx.insert(person).values(
      wexlowPeople.map(({ id, name, email, levels, joinedDaysAgo }) => {
        const since =
          joinedDaysAgo === undefined
            ? new Date(levels?.[0]?.since ?? '2026-01-05T09:00:00Z')
            : new Date(clockMs() - joinedDaysAgo * 86_400_000)
        return {
          id,
          name,
          email,
          passwordHash,
          createdAt: since,
          confirmedAt: since,
          approvedAt: since,
          provenAt: since,
        }
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
    await insertPictures(tx, files)
    await insertFiles(tx)
    await indexSearch(tx)
    await insertMill(tx)
  })
  return true
}

async function insertPictures(tx: Tx, files: URL): Promise<void> {
  for (const file of Object.keys(wexlowPictures))
    await keepPicture(tx, await readFile(new URL(file, files)), { id: null, name: 'demo' })
}

/** Files are drawn as they are kept: their names follow from their bytes. */
async function insertFiles(tx: Tx): Promise<void> {
  for (const { download, fileName, bytes } of wexlowFiles) {
    const name = await keepBytes(tx, await bytes(), fileName, { id: null, name: 'demo' })
    await tx
      .update(version)
      .set({ content: sql`${version.content} || ${JSON.stringify({ file: name, fileName })}::jsonb` })
      .where(and(eq(version.kind, 'download'), eq(version.key, download)))
  }
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
  await tx.insert(stock).values(wexlowStock)
  await insertOrders(tx)
  const { count } = wexlowCodes
  const [batch] = await tx
    .insert(codeBatch)
    .values({ ...wexlowCodes, madeAt: clockDate(), madeBy: 'Bravik', request: 'demo' })
    .returning({ id: codeBatch.id })
  const codes = Array.from({ length: count }, () => newCode('DYEDAY'))
  await tx
    .insert(singleCode)
    .values(codes.map(code => ({ batch: batch!.id, offer: wexlowCodes.offer, code, folded: foldedCode(code) })))
  for (const { kind, key, madeBy } of wexlowMakers)
    await tx
      .update(thingTable)
      .set({ madeBy })
      .where(and(eq(thingTable.kind, kind), eq(thingTable.key, key)))
  const rows = wexlowActivity(clockMs())
  for (let i = 0; i < rows.length; i += 1000) await tx.insert(activity).values(rows.slice(i, i + 1000))
}

/** An operator's own site: a keeper's role, a front page, and nothing else. */
export async function setUpEmpty(db: AnyDb): Promise<boolean> {
  if (await isSetUp(db)) return false
  await inTransaction(db, async tx => {
    await firstEdition(
      tx,
      'My site',
      {
        bravik: 'rulebook/1',
        roles: [{ id: 'keeper', name: 'Keeper', staff: true, note: 'Holds the master key.' }],
        tiers: [
          { id: 'guest', name: 'Guest', note: 'no account', visitor: { person: null } },
          { id: 'signed-in', name: 'Signed in', note: 'no level', visitor: { person: { id: 'tier-signed-in' } } },
        ],
        settings: { masterKeys: ['keeper'] },
      },
      emptyThings,
    )
    // Nobody signs up before the operator opens the door.
    await writeSetting(tx, 'sign-up', { mode: 'closed' }, 'Bravik')
    await writeSetting(tx, firstStepsGroup, { shown: true }, 'Bravik')
  })
  return true
}

/** A front page to write on, and a member's home. */
const emptyThings: FirstThing[] = [
  { kind: 'menu', key: 'main', thing: { title: 'Main menu' } },
  { kind: 'page', key: 'front', thing: { path: '/', title: 'A new site' } },
  {
    kind: 'block',
    key: 'front-text',
    thing: {
      kind: 'text',
      in: { page: 'front' },
      body: { markdown: 'This page is yours to write: sign in and open the loft.' },
    },
  },
  { kind: 'page', key: 'account', thing: { path: '/account', title: 'Your account' } },
  { kind: 'block', key: 'account-card', thing: { kind: 'account', in: { page: 'account' }, body: {} } },
  { kind: 'block', key: 'account-home', thing: { kind: 'panels', in: { page: 'account' }, body: {} } },
  ...(['levels', 'yours', 'firm', 'applications', 'profile', 'sessions'] as const).map((shows): FirstThing => ({
    kind: 'block',
    key: `home-${shows}`,
    thing: { kind: 'panel', in: { block: 'account-home' }, title: homeTitles[shows], body: { shows } },
  })),
  { kind: 'menuItem', key: 'm-front', thing: { menu: 'main', label: 'Front page', to: { page: 'front' } } },
  { kind: 'menuItem', key: 'm-account', thing: { menu: 'main', label: 'Account', to: { page: 'account' } } },
]
