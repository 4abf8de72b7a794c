import { eq, sql } from 'drizzle-orm'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { actionRights } from '../../server/actions/actions'
import { person, trace } from '../../server/db/schema'
import { signedIn, startApplication } from '../support/application'
import type { Application } from '../support/application'
import { launchBrowser, newPageOf } from '../support/browser'
import { comeIn } from '../support/come-in'

let application: Application
let browser: Browser
beforeAll(async () => {
  ;[application, browser] = await Promise.all([startApplication(), launchBrowser()])
})
afterAll(async () => {
  await browser?.close()
  await application?.stop()
})

/** The console as somebody of the staff, asked as a staff role. */
async function asRole(who: string, role: string) {
  const ask = await signedIn(application.url, who)
  return async (path: string, init: RequestInit & { json?: unknown } = {}) => {
    const answer = await ask(`/api/loft/${path}`, { ...init, headers: { 'bravik-as-role': role } })
    return { status: answer.status, told: (await answer.json().catch(() => ({}))) as Record<string, unknown> }
  }
}
const changed = async () => {
  const { db } = application.database
  const [rows] = await db.execute<{ sum: string }>(
    sql`select concat_ws(' ', (select count(*) from trace), (select max(id) from version), (select string_agg(name, ',' order by id) from person), (select count(*) from upload), (select string_agg("group" || body, ',' order by "group") from setting)) sum`,
  )
  return rows!.sum
}

describe('the console seen as a staff role', () => {
  it('answers with that role’s rights alone, and says which sentence is missing', async () => {
    const frontDesk = await asRole('ines', 'front-desk')
    const { me } = (await frontDesk('start')).told as { me: { masterKey: boolean; roles: string[] } }
    expect(me).toMatchObject({ masterKey: false, roles: ['front-desk'] })
    expect((await frontDesk('people')).status).toBe(200)
    const refused = await frontDesk('staff')
    expect([refused.status, refused.told.reason]).toEqual([403, 'right-missing'])
    expect(refused.told.detail).toBe(
      'You may not look at who is staff, and what they may: no sentence says “may look at who is staff, and what they may”.',
    )
    const entry = { body: { id: 'extra', name: 'Extra', rank: 99 }, expects: null }
    const oneOf = await frontDesk('entries/level/extra', { method: 'PUT', json: entry })
    expect(oneOf.told.detail).toContain('no sentence says “may add levels” or “may change levels” or “may add roles”')
  })

  it('does nothing, whatever is asked for and however far the role goes', async () => {
    const before = await changed()
    const frontDesk = await asRole('ines', 'front-desk')
    const given = await frontDesk('people/p-mako', { method: 'PUT', json: { name: 'Somebody Else' } })
    expect([given.status, given.told.reason]).toEqual([403, 'only-looked'])
    const pageHand = await asRole('ines', 'page-hand')
    const begun = await pageHand('uploads', { method: 'POST', json: { name: 'a.pdf', size: 10 } })
    expect([begun.status, begun.told.reason]).toEqual([403, 'only-looked'])
    const keeper = await asRole('ines', 'keeper')
    for (const name of Object.keys(actionRights)) {
      const [method, pattern] = name.split(' ') as [string, string]
      if (method === 'GET' || name.endsWith(' /api/loft/walk')) continue
      for (const ask of [frontDesk, keeper]) {
        const { status } = await ask(pattern.replace('/api/loft/', '').replaceAll(/:\w+/g, '1'), { method, json: {} })
        expect(status, name).toBeGreaterThanOrEqual(400)
      }
    }
    expect(await changed()).toBe(before)
  })

  it('is for those who may look at staff, and shows nobody more than they may do', async () => {
    const oona = await asRole('oona', 'page-hand')
    expect((await oona('start')).told.reason).toBe('right-missing')
    const ines = await signedIn(application.url, 'ines')
    const { rules } = (await (await ines('/api/loft/staff')).json()) as { rules: { role: string; kind: string }[] }
    const looksAtStaff = { role: 'front-desk', kind: 'staff', actions: ['look'], whose: 'anyone' }
    const own = rules.filter(rule => rule.role === 'front-desk')
    const put = (list: unknown[]) => ines('/api/loft/staff/front-desk', { method: 'PUT', json: { rules: list } })
    expect((await put([...own, looksAtStaff])).status).toBeLessThan(300)
    for (const more of ['keeper', 'page-hand']) {
      const dace = await asRole('dace', more)
      expect((await dace('start')).told.reason, more).toBe('role-sees-more')
    }
    expect((await (await asRole('dace', 'front-desk'))('start')).status).toBe(200)
    for (const none of ['stockist', 'nobody', '']) {
      expect((await (await asRole('ines', none))('start')).told.reason, none).toBe('no-staff-role')
    }
    await put(own)
    const guest = await fetch(`${application.url}/api/loft/start`, { headers: { 'bravik-as-role': 'keeper' } })
    expect(guest.status).toBe(401)
  })

  it('is entered from the board of staff rights, and leads back to what is missing', async () => {
    const page = await newPageOf(browser)
    await comeIn(page, application.url, 'ines', '/loft/who?tab=staff&role=shop-hand&kind=products')
    await page.getByRole('button', { name: 'see its loft' }).click()
    const told = page.getByRole('region', { name: 'Seen as a staff role' })
    await told.getByText('Shop hand').first().waitFor()
    const places = page.getByRole('navigation', { name: 'Places' })
    await places.getByRole('link', { name: 'Shop' }).waitFor()
    expect(await places.getByRole('link').allTextContents()).toEqual(['Reach', 'Site', 'Shop', 'Who', 'Editions'])
    // It holds for the whole tab, a page loaded anew too.
    await page.goto(`${application.url}/loft/site?path=/techniques&as=guest`)
    await told.getByRole('button', { name: /withheld/ }).click()
    await told.getByText('“Shop hand may look at people.”').waitFor()
    await told.getByRole('button', { name: /^Say it: Shop hand may look at activity/ }).click()
    await page.getByRole('heading', { name: 'Activity', exact: true }).waitFor()
    expect(await told.count()).toBe(0)
    await page.context().close()
  })
})

const region = (page: Page) => page.getByRole('region', { name: /^The page as/ })

describe('the site looked at as anybody', () => {
  it('as if more were so of them: said in a line, kept in the address, and kept as a tier', async () => {
    const page = await newPageOf(browser)
    await comeIn(page, application.url, 'ines', '/loft/site?path=/trade&as=guest')
    await region(page).getByText('not sent').first().waitFor()
    await page.getByRole('button', { name: 'Look as anybody' }).click()
    await page.getByLabel('What else is so of them').selectOption('role')
    await page.getByLabel('holds the role').selectOption('stockist')
    await page.getByText('Shown as Guest, as if Stockist.').waitFor()
    await page.getByLabel('What else is so of them').selectOption('country')
    await page.getByLabel('is in', { exact: true }).selectOption('ES')
    await page.getByText('Shown as Guest, as if Stockist, in Spain.').waitFor()
    await page.waitForURL(url => url.searchParams.get('as') === 'guest,role:stockist,country:ES')
    expect(await region(page).locator('[data-refused]').count()).toBe(0)
    const address = page.url()
    await page.getByLabel('Name of the tier').fill('Spanish stockists')
    await page.getByRole('button', { name: 'Keep it' }).click()
    await page
      .getByLabel('As which tier')
      .locator('option:checked', { hasText: 'Spanish stockists' })
      .waitFor({ state: 'attached' })
    // Passed on, the address shows the same to whoever may look.
    const other = await newPageOf(browser)
    await comeIn(other, application.url, 'ines', new URL(address).pathname + new URL(address).search)
    await other.getByText('Shown as Guest, as if Stockist, in Spain.').waitFor()
    await Promise.all([page, other].map(one => one.context().close()))
  })

  it('as a real person, as if they held another level, beside a tier; what they differ in is compared', async () => {
    const page = await newPageOf(browser)
    await comeIn(
      page,
      application.url,
      'ines',
      '/loft/site?path=/techniques/gansey&as=person:p-mako,level:guild&beside=maker',
    )
    await page.getByText('Shown as Mako Strand, as if Guild.').waitFor()
    await page.getByRole('link', { name: 'Compare all they reach' }).click()
    await page.getByRole('heading', { name: 'Compare', exact: true }).waitFor()
    const gate = page.getByRole('region', { name: 'Gansey course' })
    await gate.getByText(/keeps \d+ from Maker/).waitFor()
    await gate.getByText('The gansey course').first().waitFor()
    await gate.getByRole('link', { name: 'Why: The gansey course' }).click()
    await page.getByRole('region', { name: 'Why' }).getByText('Maker glimpses it').waitFor()
    await page.context().close()
  })

  it('sends what a real person would be sent, notes who looked, and lets nobody do so who may not', async () => {
    const visitor = { person: { id: 'p-mako' }, levels: [{ level: 'guild', since: '2026-01-01T00:00:00Z' }] }
    const walk = { method: 'POST', json: { tier: 'Mako Strand', visitor, draft: false } }
    const ines = await signedIn(application.url, 'ines')
    const { base } = (await (await ines('/api/loft/walk', walk)).json()) as { base: string }
    expect((await ines(`${base}/techniques/gansey`)).status).toBe(200)
    const { db } = application.database
    const [noted] = await db.select().from(trace).where(eq(trace.action, 'person.look-as'))
    expect(noted).toMatchObject({ subject: 'person p-mako' })
    // Who may not look at people whole may look as tiers, and as nobody real.
    const oona = await signedIn(application.url, 'oona')
    expect((await oona('/api/loft/walk', walk)).status).toBe(403)
    expect((await oona('/api/loft/people/p-mako')).status).toBe(403)
    const [mako] = await db.select().from(person).where(eq(person.id, 'p-mako'))
    expect(mako!.name).toBe('Mako Strand')
  })
})
