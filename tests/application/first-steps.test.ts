import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { addText, makePage } from '../support/at-site'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it, onTestFinished } from 'vitest'
import { makeFirstKeeperLink } from '../../server/services/set-up/first-keeper'
import { desc, eq } from 'drizzle-orm'
import { mailKept } from '../../server/db/schema'
import { startApplication } from '../support/application'
import type { Application } from '../support/application'
import { launchBrowser, newPageOf } from '../support/browser'

let browser: Browser
beforeAll(async () => {
  browser = await launchBrowser()
})
afterAll(() => browser.close())
const newPage = () => newPageOf(browser)

/** A new site whose first keeper has just come in. */
async function newSite() {
  const own = await startApplication('empty')
  onTestFinished(() => own.stop())
  const keeper = await newPage()
  await keeper.goto(`${own.url}/first-keeper?token=${await makeFirstKeeperLink(own.database.db)}`)
  await keeper.getByLabel('Your name').fill('Ada Own')
  await keeper.getByLabel('E-mail address').fill('ada@own.example')
  await keeper.getByLabel(/Password/).fill('ten characters')
  await keeper.getByRole('button', { name: 'Open the loft' }).click()
  await keeper.waitForURL('**/loft')
  return { own, keeper }
}
/** What the newest mail to somebody says, once it was sent. */
async function inMail({ database }: Application, to: string, what: RegExp): Promise<string> {
  const found = async () => {
    const mails = await database.db.select().from(mailKept).where(eq(mailKept.recipient, to)).orderBy(desc(mailKept.id))
    return mails.map(one => what.exec(one.plain)?.[0]).find(Boolean)
  }
  await expect.poll(found, { timeout: 20_000 }).toBeTruthy()
  return (await found())!
}
const onReach = (page: Page) => page.getByRole('region', { name: 'First steps' })
const along = (page: Page) => page.getByRole('navigation', { name: 'First steps' })
const next = (page: Page, title: string) => along(page).getByRole('link', { name: `${title}, next` })

describe('the first steps of a new site', () => {
  it('lead from the one-time link to a page that a member opens and a guest does not', async () => {
    const { own, keeper } = await newSite()
    await onReach(keeper).getByText('0 of 8 done').waitFor()
    await onReach(keeper).getByRole('link', { name: 'Go there' }).click()
    // There is nothing to bring.
    await keeper.getByRole('dialog').getByRole('button', { name: 'Close' }).click()
    await makePage(keeper, { title: 'Club nights', address: '/club', summary: 'When we meet.' })
    await addText(keeper, 'Every Thursday in the long shed.')
    await keeper.getByRole('button', { name: /, 2 here$/ }).waitFor()

    await next(keeper, 'Say who there is').click()
    await keeper.getByRole('button', { name: '+ level' }).click()
    await keeper.getByLabel('Name of a new level').fill('Weaver')
    await keeper.getByLabel('Name of a new level').press('Enter')
    await keeper.getByLabel('Whether everybody starts with Weaver').selectOption('yes')
    await keeper.getByRole('button', { name: '+ its column on Reach, for Weaver' }).click()

    // Until mail is seen to work nobody's address is proven.
    await next(keeper, 'See that mail works').click()
    await keeper.getByRole('button', { name: 'Does mail work?' }).click()
    await keeper.getByLabel('The code of the mail').fill(await inMail(own, 'ada@own.example', /\b\d{6}\b/))
    await keeper.getByRole('button', { name: 'Take it' }).click()
    await keeper.getByText('Mail works: a code came back.').waitFor()

    await next(keeper, 'Open the door').click()
    expect(await keeper.getByLabel('Whether the address is confirmed').inputValue()).toBe('yes')
    await keeper.getByLabel('The door is', { exact: true }).selectOption('open')
    await keeper.getByText('Kept, and in force.').waitFor()

    await next(keeper, 'Say what the refused get').click()
    await keeper.getByRole('region', { name: 'What the refused get' }).getByLabel('Otherwise').selectOption('teaser')

    await onReach(keeper).getByRole('link', { name: 'Give a part to somebody, next' }).click()
    await onReach(keeper).getByText('5 of 8 done').waitFor()
    const why = keeper.getByRole('region', { name: 'Why' })
    await why.getByRole('heading', { name: 'Club nights' }).waitFor()
    await why.getByRole('button', { name: '+ Gate here' }).click()
    await why.getByRole('button', { name: /^everyone/ }).click()
    await keeper.getByRole('option', { name: 'Weaver or above', exact: true }).click()
    await why.getByText('Guest does not see it').waitFor()
    await onReach(keeper).getByText('6 of 8 done').waitFor()

    await onReach(keeper).getByRole('link', { name: 'Publish it, next' }).click()
    await keeper.getByText('Editions so far').waitFor()
    await keeper.getByRole('button', { name: 'Publish edition 2…' }).first().click()
    await keeper.getByRole('button', { name: 'Publish edition 2', exact: true }).click()
    await keeper.getByRole('heading', { name: 'The draft holds no changes' }).waitFor()

    const guest = await newPage()
    const answer = (await guest.goto(`${own.url}/club`))!
    // A teaser, as was said: of what stands in the page nothing is sent.
    expect(await answer.text()).not.toContain('long shed')
    expect(await answer.text()).toContain('When we meet.')
    await guest.goto(`${own.url}/sign-up`)
    await guest.getByLabel('Your name').fill('Mo Fell')
    await guest.getByLabel('E-mail address').fill('mo@fell.example')
    await guest.getByLabel(/^Password/).fill('harbour lights')
    await guest.getByRole('button', { name: 'Sign up' }).click()
    await guest.waitForURL('**/signed-up**')
    const link = await inMail(own, 'mo@fell.example', /\/confirm\?token=\S+/)
    await guest.goto(own.url + link)
    await guest.getByLabel('Password').fill('harbour lights')
    await guest.getByRole('button', { name: /Confirm/ }).click()
    await guest.waitForURL(url => !url.pathname.startsWith('/confirm'))
    await guest.goto(`${own.url}/club`)
    await guest.getByText('Every Thursday in the long shed.').waitFor()

    await next(keeper, 'Look as each of them').click()
    await keeper.getByRole('region', { name: 'The page as Guest gets it' }).waitFor()
    await keeper.keyboard.press('2')
    await along(keeper).waitFor({ state: 'detached' })
    await keeper.getByRole('link', { name: 'Reach' }).click()
    await keeper.getByRole('grid', { name: 'Who reaches what' }).waitFor()
    expect(await onReach(keeper).count()).toBe(0)
  })

  it('begin with a site that is elsewhere: read from its address, ticked, published, and seen by a guest', async () => {
    const page = (title: string, words: string) =>
      `<title>${title}</title><nav><a href="/">Home</a><a href="/kiln/">Kiln</a></nav><main><h1>${title}</h1>${words}</main>`
    const pages: Record<string, string> = {
      '/': page('The old yard', '<p>Bricks since 1850.</p><script>track()</script>'),
      '/kiln/': page(
        'The kiln',
        '<h2>Firing</h2><p>Three days. <a href="/">Home</a></p><form><legend>Book</legend></form>',
      ),
    }
    const old = createServer((request, response) => {
      const text = pages[request.url!]
      response.writeHead(text ? 200 : 404, { 'content-type': 'text/html' }).end(text)
    })
    await new Promise<void>(done => old.listen(0, '127.0.0.1', done))
    onTestFinished(() => void old.close())
    const { own, keeper } = await newSite()
    await onReach(keeper).getByRole('link', { name: 'Go there' }).click()
    const dialog = keeper.getByRole('dialog', { name: 'Bring a site that is elsewhere' })
    await dialog.getByLabel('The address where it begins').fill('http://yard.example/')
    await dialog.getByRole('button', { name: 'Read it' }).click()
    await dialog.getByText('yard.example is not among the hosts').waitFor()
    await dialog
      .getByLabel('The address where it begins')
      .fill(`http://127.0.0.1:${(old.address() as AddressInfo).port}/`)
    await dialog.getByRole('button', { name: 'Read it' }).click()
    await dialog.getByRole('checkbox', { name: 'Bring The kiln' }).waitFor({ timeout: 30_000 })
    await dialog.getByText('What could not be kept').click()
    await dialog.getByText('1 form: Book').waitFor()
    await dialog.getByRole('button', { name: 'Bring 2 pages and 1 menu into the draft' }).click()
    await dialog.getByText('in the draft: look through them').waitFor()
    const guest = await newPage()
    expect((await guest.goto(`${own.url}/kiln`))!.status()).toBe(404)
    await dialog.getByRole('button', { name: 'Close' }).click()
    await keeper.goto(`${own.url}/loft/editions`)
    await keeper
      .getByRole('button', { name: /^Publish edition 2/ })
      .first()
      .click()
    await keeper.getByRole('button', { name: 'Publish edition 2', exact: true }).click()
    await expect.poll(async () => (await guest.goto(`${own.url}/kiln`))!.status(), { timeout: 20_000 }).toBe(200)
    const html = await guest.content()
    expect(html).toContain('Three days.')
    expect(html).not.toContain('<form')
    await guest.getByRole('link', { name: 'Home' }).first().click()
    await guest.getByText('Bricks since 1850.').waitFor()
    expect(await guest.content()).not.toContain('track()')
  })

  it('are done without by who knows the way, for good and for everybody', async () => {
    const { keeper } = await newSite()
    await onReach(keeper).getByRole('button', { name: 'do without them' }).click()
    await onReach(keeper).waitFor({ state: 'detached' })
    await keeper.reload()
    await keeper.getByRole('grid', { name: 'Who reaches what' }).waitFor()
    expect(await onReach(keeper).count()).toBe(0)
  })
})
