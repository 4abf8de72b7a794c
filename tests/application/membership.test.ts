import { readEnvironmentAnew } from '../../server/environment'
import { sql } from 'drizzle-orm'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it, onTestFinished } from 'vitest'
import { signature } from '../../server/services/secrets/tokens'
import { signedIn, startApplication, testSecret } from '../support/application'
import type { Application } from '../support/application'
import { launchBrowser, newPageOf } from '../support/browser'
import { comeIn } from '../support/come-in'

let application: Application
let browser: Browser
beforeAll(async () => {
  ;[application, browser] = await Promise.all([startApplication(), launchBrowser()])
})
afterAll(async () => {
  await browser.close()
  await application.stop()
})
const newPage = () => newPageOf(browser)
const dayMs = 86_400_000

/** For what counts people, or changes how one comes in. */
async function ownDemo() {
  const application = await startApplication()
  onTestFinished(() => application.stop())
  return application
}
async function keeperOf(url: string, at: string): Promise<Page> {
  const keeper = await newPage()
  await comeIn(keeper, url, 'ines', at)
  return keeper
}
const text = (page: Page) => page.locator('main').innerText()

describe('from stranger to member and back', () => {
  it('signs up, confirms from the outbox, is let in, buys, opens, runs out, is refused, applies', async () => {
    const application = await ownDemo()
    const keeper = await keeperOf(application.url, '/loft/door')
    await keeper.getByLabel('Whether somebody looks at them').selectOption('each')
    await keeper.getByText('Kept, and in force.').waitFor()

    const nell = await newPage()
    await nell.goto(`${application.url}/sign-in?back=/techniques/mending`)
    await nell.getByRole('link', { name: 'Sign up' }).click()
    await nell.getByLabel('Your name').fill('Nell Orr')
    await nell.getByLabel('E-mail address').fill('nell@orr')
    await nell.getByLabel(/^Password/).fill('short')
    await nell.getByRole('button', { name: 'Sign up' }).click()
    // What is wrong is said at each field, and what was typed is still there.
    await nell.getByText('This is not an e-mail address.').waitFor()
    await nell.getByText('A password has ten characters or more.').waitFor()
    expect(await nell.getByLabel('Your name').inputValue()).toBe('Nell Orr')
    await nell.getByLabel('E-mail address').fill('nell@orr.example')
    await nell.getByLabel(/^Password/).fill('harbour lights')
    await nell.getByLabel(/Spindles owned/).fill('3')
    await nell.getByRole('button', { name: 'Sign up' }).click()
    await nell.getByText('Look in your mail').waitFor()

    await keeper.goto(`${application.url}/loft/door?tab=mail`)
    await keeper.getByRole('button', { name: /Is this your address\?.*nell@orr.example/ }).click()
    const link = await keeper.getByRole('link', { name: /confirm\?token=/ }).getAttribute('href')
    await nell.goto(link!)
    await nell.getByLabel('The password you chose').fill('harbour lights')
    await nell.getByRole('button', { name: 'Confirm and come in' }).click()
    await nell.getByText('One of us looks at each sign-up by hand').waitFor()
    await signIn(nell, application.url)
    await nell.getByRole('alert').getByText('still waits to be looked at').waitFor()

    await keeper.goto(`${application.url}/loft/people?tab=queues`)
    await keeper.getByRole('button', { name: 'Let Nell Orr in' }).click()
    await keeper.getByText('Nell Orr can sign in now.').waitFor()
    await signIn(nell, application.url)
    await nell.waitForURL('**/account')
    expect(await text(nell)).toMatch(/Friend[\s\S]*One level up\s+Maker, €6\.00 a month, would also open:/)

    // Buying: declined first, then approved.
    await nell.getByRole('link', { name: 'Become Maker' }).click()
    expect(await text(nell)).toContain('To pay now')
    await nell.getByRole('button', { name: 'Pay €6.00' }).click()
    await nell.getByRole('button', { name: 'Decline' }).click()
    await nell.getByText('The payment was declined.').waitFor()
    expect((await nell.goto(`${application.url}/techniques/mending`))!.status()).toBe(200)
    expect(await text(nell)).toContain('The rest is for members.')
    await nell.goBack()
    await nell.getByRole('button', { name: 'Approve', exact: true }).click()
    await nell.getByText('What you bought opens now.').waitFor()
    await nell.goto(`${application.url}/techniques/mending`)
    expect(await text(nell)).toContain('Pick up the sound stitches')
    await nell.goto(`${application.url}/account`)
    await nell.getByRole('button', { name: 'Do not renew Maker' }).click()
    await nell.getByText('It ends with what you have paid').waitFor()

    // Forty days later, at a server whose clock is ahead, it has run out.
    const later = await application.another({ BRAVIK_CLOCK_OFFSET_MS: String(40 * dayMs) })
    await signIn(nell, later)
    await nell.waitForURL('**/account')
    await nell.goto(`${later}/techniques/mending`)
    expect(await text(nell)).toContain('The rest is for members.')
    expect((await nell.goto(`${later}/techniques/gansey`))!.status()).toBe(403)
    await nell.getByRole('link', { name: 'as Test knitter, by asking' }).click()
    await nell.getByLabel('What did you last knit from a chart?').fill('The harbour cowl')
    await nell.getByRole('button', { name: 'Send' }).click()
    await nell.getByText('Your application waits').waitFor()

    await keeper.goto(`${application.url}/loft/people?tab=queues`)
    await keeper.getByText('The harbour cowl', { exact: true }).waitFor()
    await keeper.getByRole('button', { name: 'Accept Nell Orr as Test knitter' }).click()
    await keeper.getByText('Nell Orr is told.').waitFor()
    expect((await nell.goto(`${later}/techniques/gansey`))!.status()).toBe(200)

    // The loft knows the whole way: what she held, where she was refused.
    await keeper.goto(`${application.url}/loft/people`)
    await keeper.getByRole('button', { name: 'Nell Orr' }).click()
    await keeper.getByRole('link', { name: 'Everything about Nell Orr' }).click()
    await keeper.getByRole('region', { name: 'History of levels' }).getByText('Maker').first().waitFor()
    await keeper
      .getByRole('region', { name: 'Activity' })
      .getByText('was refused at The gansey course')
      .first()
      .waitFor()
    await keeper
      .getByRole('region', { name: 'What they reach' })
      .getByRole('button', { name: 'The gansey course open' })
      .first()
      .waitFor()
  })

  const signIn = async (page: Page, url: string) => {
    await page.goto(`${url}/sign-in`)
    await page.getByLabel('E-mail address').fill('nell@orr.example')
    await page.getByLabel('Password').fill('harbour lights')
    await page.getByRole('button', { name: 'Sign in' }).click()
  }

  it('a member looks after herself: profile, other browsers, her data, and leaving for good', async () => {
    const [fenn, elsewhere] = [await newPage(), await newPage()]
    for (const page of [fenn, elsewhere]) {
      await comeIn(page, application.url, 'fenn', '/account')
      await page.waitForURL('**/account')
    }
    await fenn.goto(`${application.url}/account`)
    await fenn.getByRole('button', { name: 'Sign out everywhere else' }).click()
    await fenn.getByText('All other browsers are signed out.').waitFor()
    await elsewhere.goto(`${application.url}/account`)
    await elsewhere.getByText('You are not signed in.').waitFor()
    await fenn.getByRole('link', { name: 'Change your profile' }).click()
    await fenn.getByLabel('Your name').fill('Fenn A.')
    await fenn.getByRole('button', { name: 'Keep' }).click()
    await fenn.getByText('Kept.').waitFor()

    // Signed up before mail worked: whose the address is shows with a link that is followed.
    const { db } = application.database
    expect(await fenn.getByRole('button', { name: 'Send me a link' }).count()).toBe(0)
    await db.execute(sql`update person set proven_at = null where id = 'p-fenn'`)
    await fenn.reload()
    await fenn.getByText('Nobody has seen yet that fenn@wexlow.example is yours.').waitFor()
    await fenn.getByRole('button', { name: 'Send me a link' }).click()
    await fenn.getByText('A link is on its way to your address.').waitFor()
    const linkOf = async () => {
      const [mail] = await db.execute<{ plain: string }>(
        sql`select plain from mail_kept where recipient = 'fenn@wexlow.example' and plain like '%/account/address?token=%' order by id desc limit 1`,
      )
      return /\/account\/address\?token=[\w-]+/.exec(mail?.plain ?? '')?.[0]
    }
    await expect.poll(linkOf, { timeout: 20_000 }).toBeTruthy()
    await fenn.goto(application.url + (await linkOf())!)
    await fenn.getByRole('button', { name: 'Take this address' }).click()
    await fenn.waitForURL('**/account/profile?done=new-address')
    const [proven] = await db.execute<{ proven: boolean }>(
      sql`select proven_at is not null proven from person where id = 'p-fenn'`,
    )
    expect([proven!.proven, await fenn.getByRole('button', { name: 'Send me a link' }).count()]).toEqual([true, 0])
    const data = (await (await fenn.request.get(`${application.url}/account/data`)).json()) as {
      person: { name: string }
      memberships: unknown[]
    }
    expect([data.person.name, data.memberships.length]).toEqual(['Fenn A.', 1])
    await fenn.goto(`${application.url}/account/leave`)
    await fenn.getByLabel('Your password').fill('not this')
    await fenn.getByRole('button', { name: 'Remove me' }).click()
    await fenn.getByText('This is not your password.').waitFor()
    await fenn.getByLabel('Your password').fill('wexlow-demo')
    await fenn.getByRole('button', { name: 'Remove me' }).click()
    await fenn.waitForURL('**/?left=yes')
    expect([...(await application.database.db.execute(sql`select id from person where id = 'p-fenn'`))]).toEqual([])
  })
})

describe('payment notices over HTTP', () => {
  it('are taken only when the provider signed them, and once', async () => {
    process.env.BRAVIK_SECRET = testSecret
    readEnvironmentAnew()
    const pia = await signedIn(application.url, 'pia')
    const form = (path: string, body: Record<string, string>) =>
      pia(path, {
        method: 'POST',
        headers: { 'content-type': 'application/x-www-form-urlencoded' },
        body: new URLSearchParams(body),
      })
    const begun = await form('/account/buy?level=maker', { level: 'maker', amount: '600' })
    const reference = begun.headers.get('location')!.split('/').at(-1)!
    const send = (body: string, given: string) =>
      fetch(`${application.url}/api/payments/notice`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'x-payment-signature': given },
        body,
      })
    const notice = JSON.stringify({ id: 'n-1', reference, kind: 'paid' })
    expect((await send(notice, 'made up')).status).toBe(403)
    expect((await send(notice.replace('paid', 'refunded'), signature('payment', notice))).status).toBe(403)
    for (let i = 0; i < 2; i++) expect((await send(notice, signature('payment', notice))).status).toBe(204)
    expect([
      ...(await application.database.db.execute(sql`select level, source from membership where person_id = 'p-pia'`)),
    ]).toEqual([{ level: 'maker', source: 'bought' }])
    // The till belongs to the buyer, and a settled purchase is not settled again.
    expect((await (await signedIn(application.url, 'mako'))(`/pay/${reference}`)).status).toBe(404)
    expect((await form(`/pay/${reference}`, { answer: 'decline' })).status).toBe(409)
    // Approved now, told later, by the queue.
    const later = await form('/account/buy?level=guild', { level: 'guild', amount: '7800' })
    expect(later.headers.get('location')).toMatch(/^\/pay\//)
    expect((await form(later.headers.get('location')!, { answer: 'later' })).headers.get('location')).toBe(
      '/account?done=paid-later',
    )
    const levels = async () =>
      [
        ...(await application.database.db.execute<{ level: string }>(
          sql`select level from membership where person_id = 'p-pia' and until > now()`,
        )),
      ].map(row => row.level)
    expect(await levels()).toEqual(['maker'])
    await expect.poll(levels, { timeout: 30_000, interval: 500 }).toEqual(['guild'])
  })
})

describe('many people at once', () => {
  it('are ticked or found by a sentence, previewed, changed and changed back', async () => {
    const application = await ownDemo()
    const keeper = await keeperOf(application.url, '/loft/people')
    await keeper.getByRole('button', { name: '+ who are…' }).click()
    await keeper.keyboard.type('friend or above')
    await keeper.keyboard.press('Enter')
    await keeper.getByText('4 people', { exact: true }).waitFor()
    await keeper.getByLabel('Tick all 4 people found').check()
    const card = keeper.getByRole('complementary', { name: 'Change many people' })
    await card.getByLabel('Which role').selectOption('classroom')
    await card.getByText('4 people get it').waitFor()
    await card.getByRole('button', { name: 'Do it' }).click()
    await keeper.getByRole('button', { name: 'Undo: 4 got Classroom' }).click()
    await keeper.getByText('undone').waitFor()
    const holders = async (role: string) =>
      [
        ...(await application.database.db.execute<{ n: number }>(
          sql`select count(*)::int n from role_grant where role = ${role}`,
        )),
      ][0]!.n
    expect(await holders('classroom')).toBe(1)

    // A staff role asks for its name and the number of people.
    await keeper.getByRole('button', { name: 'everybody again' }).click()
    await keeper.getByText('13 people', { exact: true }).waitFor()
    await keeper.getByLabel('Tick Pia Lain').check()
    await keeper.getByLabel('Tick Mako Strand').check()
    await card.getByLabel('Which role').selectOption('front-desk')
    await card.getByRole('button', { name: 'Do it' }).click()
    const sure = keeper.getByRole('dialog', { name: 'Hand out a staff role?' })
    expect(await sure.getByRole('button', { name: 'Make 2 people Front desk' }).isDisabled()).toBe(true)
    await sure.getByLabel('The role and the number of people').fill('front desk 2')
    await sure.getByRole('button', { name: 'Make 2 people Front desk' }).click()
    await sure.waitFor({ state: 'detached' })
    await expect.poll(() => holders('front-desk')).toBe(3)

    // A file is looked at first, and refused with its lines.
    await keeper.getByRole('button', { name: 'Import' }).click()
    await keeper.getByLabel('The file').setInputFiles({
      name: 'people.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('name,email\nOla,ola@fisk.example\nUna,no address\n'),
    })
    await keeper.getByText('Line 3, email').waitFor()
    await keeper.getByLabel('The file').setInputFiles({
      name: 'people.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('name,email\nOla,ola@fisk.example\n'),
    })
    await keeper.getByText('would be taken over').waitFor()
    await keeper.getByRole('button', { name: 'Take over' }).click()
    await keeper.getByText('1 person taken over.', { exact: false }).waitFor()
  })
})

describe('the staff', () => {
  it('a shop hand changes stock and cannot change cost, by screen and by route; a keeper widens a role in place', async () => {
    const oona = await newPage()
    await comeIn(oona, application.url, 'oona')
    await oona.waitForURL('**/loft')
    const places = oona.getByRole('navigation', { name: 'Places' })
    await places.getByRole('link', { name: 'Shop' }).click()
    expect(await places.innerText()).not.toMatch(/Activity/)
    // Posts of her own and goods stand in Site; pages are nothing she may look at.
    await places.getByRole('link', { name: 'Site' }).click()
    await oona.getByRole('treeitem', { name: 'Posts' }).waitFor()
    await oona.getByRole('heading', { name: 'The wheel turns again' }).waitFor()
    expect(await oona.locator('main').innerText()).not.toMatch(/Pages|Welcome to the mill/)
    await places.getByRole('link', { name: 'Shop' }).click()
    await oona.getByRole('link', { name: 'Goods', exact: true }).click()
    const filter = oona.getByLabel('Filter goods by name')
    const stock = oona.locator('#goods-niddy-noddy-stock')
    await filter.fill('niddy')
    await stock.dblclick()
    await oona.getByLabel('In store of Niddy-noddy').fill('8')
    await oona.getByLabel('In store of Niddy-noddy').press('Enter')
    await oona.getByText('Niddy-noddy: counted.').waitFor()
    await oona.reload()
    await oona.getByRole('columnheader', { name: 'In store at once' }).waitFor()
    const heads = await oona.getByRole('columnheader').allInnerTexts()
    expect(heads.map(text => text.trim())).toEqual([
      '',
      '55 goods',
      'Price',
      'On sale at',
      'In store at once',
      'Lies in',
    ])
    await filter.fill('niddy')
    await stock.getByText('8', { exact: true }).waitFor()
    const put = (body: object) =>
      oona.request.put(`${application.url}/api/loft/products/niddy-noddy/stock`, { data: body })
    const refused = await put({ cost: 1 })
    expect([refused.status(), await refused.json()]).toMatchObject([403, { kind: 'cost', action: 'change' }])
    expect((await put({ stock: 7 })).status()).toBe(204)
    await oona.goto(`${application.url}/loft/people`)
    expect(await oona.locator('main').innerText()).not.toContain('Guda')

    const keeper = await keeperOf(application.url, '/loft/who?tab=staff')
    await keeper.locator('[id="staff-cost-2"]').click()
    const why = keeper.getByRole('complementary', { name: 'Why' })
    await why.getByText('Nothing of it so far.').waitFor()
    await why.getByRole('button', { name: '+ run it all' }).click()
    await why.getByRole('button', { name: 'change', exact: true }).waitFor()
    expect(await keeper.locator('[id="staff-cost-2"]').innerText()).toContain('everything')
    expect((await put({ cost: 1700 })).status()).toBe(204)
    await why.getByRole('button', { name: 'take this sentence out' }).click()
    await why.getByText('Nothing of it so far.').waitFor()
    expect((await put({ cost: 1 })).status()).toBe(403)
  })

  it('a landing that leads nowhere is found before it is published', async () => {
    // An address from before leads on.
    const keeper = await keeperOf(application.url, '/loft/door?tab=landings')
    const where = keeper.getByRole('region', { name: 'What they see here' })
    const back = keeper.getByRole('region', { name: 'Somebody back' })
    await where.getByRole('button', { name: 'where they land' }).click()
    await where.getByLabel('As whom it is seen').selectOption({ label: 'Stockist' })
    await where.getByText('The page opens for them.').waitFor()
    await back.getByLabel('Where landing 2 leads').fill('/nowhere')
    await back.getByLabel('Where landing 2 leads').press('Enter')
    await keeper.getByText('Stockist would land on /nowhere, where there is no page.').waitFor()
    await where.getByText('There is no page at that address.').waitFor()
    await back.getByRole('button', { name: 'More of landing 4' }).click()
    await back.getByRole('button', { name: 'Move landing 4 up' }).click()
    await expect.poll(() => back.getByLabel('Where landing 3 leads').inputValue()).toBe('/account')
    await where.getByLabel('As whom it is seen').selectOption({ label: 'Guild' })
    await where.getByText('would fit, but an earlier one leads').waitFor()
  })
})
