import { sql } from 'drizzle-orm'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, beforeEach, describe, expect, it, onTestFinished } from 'vitest'
import { startApplication } from '../support/application'
import type { Application } from '../support/application'
import { launchBrowser, newPageOf } from '../support/browser'
import { makePage } from '../support/at-site'
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
// Every journey begins with an empty draft, whatever became of the one before it.
beforeEach(async () => {
  await application.database.db.execute(
    sql`delete from version where edition_from > (select live_edition from site_state)`,
  )
  await application.database.db.execute(
    sql`update version set edition_to = null where edition_to > (select live_edition from site_state)`,
  )
  await application.database.db.execute(sql`update site_state set draft_version = draft_version + 1`)
})

const newPage = () => newPageOf(browser)
const cell = (page: Page, thing: string, tier: number) =>
  page.locator(`[id="cell-${thing.replaceAll(' ', '_')}-${tier}"]`)
const why = (page: Page) => page.getByRole('region', { name: 'Why' })
const strip = (page: Page) => page.getByRole('region', { name: 'The draft' })
/** Lets others in as well, by a gate that is being edited. */
async function orAlso(page: Page, who: string): Promise<void> {
  await why(page).getByRole('button', { name: '+ or' }).first().click()
  // What is typed before the field stands there is typed into nothing.
  await page.locator('[role=combobox]:focus').waitFor()
  await page.keyboard.type(who.toLowerCase())
  await page.getByRole('option', { name: who, exact: true }).waitFor()
  await page.keyboard.press('Enter')
}
const saved = (page: Page) => expect.poll(() => strip(page).textContent()).not.toContain('saving')

describe('from a rule to a page that holds', () => {
  it('a keeper lets classrooms in to the trade desk; a second browser, at another server, obeys at once', async () => {
    const second = await application.another()
    const visitor = await newPage()
    await visitor.goto(`${second}/sign-in?back=/trade`)
    await visitor.getByLabel('E-mail address').fill('clem@northschool.example')
    await visitor.getByLabel('Password').fill('wexlow-demo')
    await visitor.getByRole('button', { name: 'Sign in' }).click()
    await visitor.waitForURL('**/account')
    expect((await visitor.goto(`${second}/trade`))!.status()).toBe(404)

    const keeper = await newPage()
    await comeIn(keeper, application.url, 'ines')
    await keeper.waitForURL('**/loft')
    // Classroom is the seventh tier.
    await cell(keeper, 'page trade', 6).click()
    await why(keeper).getByText('does not see').waitFor()
    await keeper.keyboard.press('e')
    await why(keeper).getByRole('button', { name: 'Stockists' }).waitFor()
    await why(keeper).getByRole('button', { name: '+ or' }).first().click()
    await keeper.keyboard.type('classr')
    await keeper.getByRole('option', { name: 'Classrooms', exact: true }).waitFor()
    await keeper.keyboard.press('Enter')

    // The board moves while the gate is edited: four pages, their blocks and the menu item.
    await why(keeper).getByText('opens', { exact: true }).waitFor()
    await strip(keeper).getByText('1 change in the draft').waitFor()
    expect(await strip(keeper).textContent()).toMatch(/moves \d+ cells: \d+ gain, 0 lose/)
    expect(await cell(keeper, 'page trade', 6).textContent()).toContain('Classroom: open, live unseen')
    expect((await visitor.goto(`${second}/trade`))!.status()).toBe(404)

    await saved(keeper)
    await strip(keeper)
      .getByRole('button', { name: /Publish edition 2/ })
      .click()
    await keeper.getByLabel('Note for this edition').fill('Schools order too')
    await keeper.getByRole('dialog').getByRole('button', { name: 'Publish edition 2' }).click()
    await keeper.getByRole('dialog').waitFor({ state: 'detached' })

    expect((await visitor.goto(`${second}/trade`))!.status()).toBe(200)
    expect(await visitor.getByRole('heading', { level: 1 }).textContent()).toBe('Trade desk')
    expect(await visitor.getByRole('navigation', { name: 'Main menu' }).textContent()).toContain('Trade desk')

    await keeper.getByRole('link', { name: 'Editions' }).click()
    await keeper.getByText('Schools order too').waitFor()
  })

  it('the whole board and a sentence are worked from the keyboard', async () => {
    const keeper = await newPage()
    await comeIn(keeper, application.url, 'ines', '/loft?thing=page:visit&tier=guest')
    await why(keeper).getByText('No gate stands here').waitFor()
    await keeper.getByRole('grid').focus()
    await keeper.keyboard.press('e')
    await why(keeper).getByRole('button', { name: 'everyone' }).waitFor()
    await keeper.keyboard.press('Enter')
    await keeper.keyboard.type('friend or above and not on phone')
    await keeper.keyboard.press('Enter')
    await why(keeper).getByRole('button', { name: 'on phone' }).waitFor()
    // Backspace takes a part out, Ctrl Z brings it back.
    await why(keeper).getByRole('button', { name: 'on phone' }).focus()
    await keeper.keyboard.press('Backspace')
    await why(keeper).getByRole('button', { name: 'on phone' }).waitFor({ state: 'detached' })
    await why(keeper).getByRole('button', { name: 'Friend or above' }).focus()
    await keeper.keyboard.press('Control+z')
    await why(keeper).getByRole('button', { name: 'on phone' }).waitFor()
    // What the screen says can be typed back, and a mistake is pointed at.
    await why(keeper).getByRole('button', { name: 'as text' }).first().click()
    await keeper.getByLabel('Open to').fill('Friend or above or Elders')
    expect(await keeper.getByRole('alert').textContent()).toContain('At “Elders”')
    await keeper.getByLabel('Open to').fill('(Guild or above or Islanders) and from 1 Dec 2026')
    await why(keeper).getByRole('button', { name: 'Take this' }).click()
    await why(keeper).getByRole('button', { name: 'from 1 Dec 2026' }).waitFor()
    await saved(keeper)
    await keeper.getByRole('link', { name: /Editions/ }).click()
    await keeper.getByRole('button', { name: /Undo the change of Visit the mill/ }).click()
    await keeper.getByText('The draft holds no changes').waitFor()
  })

  it('of two keepers editing one gate the second is told, and nothing is lost', async () => {
    const [first, second] = [await newPage(), await newPage()]
    for (const [page, who] of [
      [first, 'ines'],
      [second, 'tomas'],
    ] as const) {
      await comeIn(page, application.url, who, '/loft?thing=page:steeks&tier=maker')
      await why(page).getByRole('button', { name: 'Edit the gate Steeks' }).click()
    }
    await orAlso(first, 'Classrooms')
    await strip(first).getByText('1 change in the draft').waitFor()
    await saved(first)

    await orAlso(second, 'Islanders')
    const told = second.getByRole('alertdialog', { name: 'Changed meanwhile' })
    await told.getByText('Ines Varga changed this').waitFor()
    expect(await told.textContent()).toMatch(/theirs.*Classrooms.*yours.*Islanders/)
    const kept = second.waitForResponse(one => one.url().endsWith('/entries/gate/steeks') && one.ok())
    await told.getByRole('button', { name: 'Keep mine' }).click()
    await told.waitFor({ state: 'detached' })
    await kept
    await strip(second).getByText('1 change in the draft').waitFor()
    await first.reload()
    await why(first).getByText('Islanders').waitFor()
    await first.getByRole('link', { name: /Editions/ }).click()
    await first.getByRole('button', { name: /Undo the change of Steeks/ }).click()
    await first.getByText('The draft holds no changes').waitFor()
  })

  it('what was done in several rooms is taken back from any of them, in order, and over nothing done since', async () => {
    const [keeper, other] = [await newPage(), await newPage()]
    const goTo = async (page: Page, place: string, tab?: string) => {
      await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: place }).click()
      if (!tab) return
      await page
        .getByRole('navigation', { name: `Of ${place.toLowerCase()}` })
        .getByRole('link', { name: tab })
        .click()
    }
    const say = async (page: Page, name: string, value: string) => {
      await page.getByRole('textbox', { name, exact: true }).fill(value)
      await page.getByRole('textbox', { name, exact: true }).press('Enter')
    }
    const valueOf = (page: Page, name: string) => page.getByRole('textbox', { name, exact: true }).inputValue()
    const back = async (said: string) => {
      await keeper.evaluate(() => (document.activeElement as HTMLElement).blur())
      await keeper.keyboard.press('Control+z')
      await keeper.getByRole('status').filter({ hasText: said }).waitFor()
    }

    await comeIn(keeper, application.url, 'ines', '/loft?thing=page:steeks&tier=maker')
    await why(keeper).getByRole('button', { name: 'Edit the gate Steeks' }).click()
    await orAlso(keeper, 'Classrooms')
    await saved(keeper)
    const toMaker = async (page: Page) => {
      await goTo(page, 'Who')
      await page
        .getByRole('rowheader', { name: /^Maker/ })
        .getByRole('button')
        .click()
      await page.getByLabel('Price of Maker').waitFor()
    }
    await toMaker(keeper)
    const price = await valueOf(keeper, 'Price of Maker')
    await say(keeper, 'Price of Maker', '7.50')
    await goTo(keeper, 'Door')
    const leading = keeper.getByRole('region', { name: 'Somebody back' }).getByLabel('Where landing 1 leads')
    const landing = await leading.inputValue()
    await leading.fill('/join')
    await leading.press('Enter')
    await goTo(keeper, 'Shop', 'Taxes')
    const rates = keeper.getByRole('table', { name: 'Base rates by place and category' })
    const rate = await rates.getByRole('button').first().textContent()
    await rates.getByRole('button').first().click()
    await rates.getByRole('textbox').first().fill('24')
    await rates.getByRole('textbox').first().press('Enter')
    await rates.getByText('24 %').first().waitFor()

    // The last first, whatever room one is in.
    await back('Taken back: the change of rate')
    await expect.poll(() => rates.getByRole('button').first().textContent()).toBe(rate)
    await goTo(keeper, 'Door')
    await back('Taken back: the change of landing')
    await expect.poll(() => leading.inputValue()).toBe(landing)
    // In another window the level is changed meanwhile: that stays, and it is said.
    await comeIn(other, application.url, 'ines', '/loft/who')
    await toMaker(other)
    expect(await valueOf(other, 'Price of Maker')).toBe('7.50')
    const sent = other.waitForResponse(one => one.url().endsWith('/entries/level/maker'))
    await say(other, 'Price of Maker', '9.00')
    expect((await sent).status()).toBe(200)
    await keeper.evaluate(() => (document.activeElement as HTMLElement).blur())
    await keeper.keyboard.press('Control+z')
    await keeper.getByRole('alert').filter({ hasText: 'was changed since, last by Ines Varga' }).waitFor()
    await toMaker(keeper)
    await keeper.reload()
    expect(await valueOf(keeper, 'Price of Maker')).toBe('9.00')
    expect(price).not.toBe('9.00')
  })
})

describe('the site, as each tier gets it', () => {
  it('stands side by side, at another time and country, and is sent just so', async () => {
    const keeper = await newPage()
    await comeIn(keeper, application.url, 'ines', '/loft/site?path=/techniques/mending&as=guild&beside=guest')
    const [guild, guest] = ['Guild', 'Guest'].map(name =>
      keeper.getByRole('region', { name: `The page as ${name} gets it` }),
    )
    await guild!.getByText('Chart for a heel of twelve').waitFor()
    await guest!.getByText('The whole page is not sent to Guest.').waitFor()
    await keeper.getByRole('button', { name: 'Only what they get' }).click()
    await guest!.getByText('The rest is for members.').waitFor()
    // Links walk on, on both sides.
    await guild!.getByRole('link', { name: 'Technique library' }).click()
    await expect.poll(() => new URL(keeper.url()).searchParams.get('path')).toBe('/techniques')
    await guest!.getByRole('heading', { name: 'Technique library' }).waitFor()
    await keeper.goto(`${application.url}/loft/site?path=/trade/export&as=stockist`)
    const stockist = keeper.getByRole('region', { name: 'The page as Stockist gets it' })
    await stockist.getByText('These terms are for shops outside Ireland').first().waitFor()
    await keeper.getByLabel('Country of every tier').selectOption('GB')
    await stockist.getByText('customs papers').waitFor()
    // What the server sends, in a window of its own; a guest with the very same address sees nothing.
    const opened = keeper.context().waitForEvent('page')
    await keeper.getByRole('button', { name: 'As sent, in a window' }).click()
    const sent = await opened
    await sent.getByText('customs papers').waitFor()
    const stranger = await newPage()
    expect((await stranger.goto(sent.url()))!.status()).toBe(403)
  })
})

describe('people and what they are', () => {
  it('levels are made, ranked and removed; people get levels and roles', async () => {
    const keeper = await newPage()
    await comeIn(keeper, application.url, 'ines', '/loft/who')
    await keeper.getByRole('button', { name: '+ level' }).click()
    await keeper.getByLabel('Name of a new level').fill('Patron')
    await keeper.getByLabel('Name of a new level').press('Enter')
    await strip(keeper).getByText('1 change in the draft').waitFor()
    await saved(keeper)
    await keeper
      .getByRole('rowheader', { name: /^Patron/ })
      .getByRole('button')
      .click()
    await keeper.getByRole('grid', { name: 'Levels across, visitor roles down' }).focus()
    await keeper.keyboard.press('Alt+ArrowDown')
    await keeper.getByText('level, rank 30').waitFor()
    await keeper.getByText(/^Guild above Patron: /).waitFor()
    await strip(keeper).getByText('2 changes in the draft').waitFor()
    await saved(keeper)
    await keeper
      .getByRole('rowheader', { name: /^Maker/ })
      .getByRole('button')
      .click()
    await keeper.getByRole('button', { name: 'Remove Maker' }).click()
    await keeper.getByRole('button', { name: 'Take Maker out' }).click()
    await keeper.getByRole('alert').getByText('Held by 1 person').first().waitFor()
    await keeper.goto(`${application.url}/loft/people?person=p-pia`)
    const card = keeper.getByRole('complementary', { name: 'The chosen person' })
    await card.getByLabel('Level to give').selectOption('maker')
    await card.getByRole('button', { name: 'Give' }).first().click()
    await card.getByRole('button', { name: 'Take Maker from Pia Lain' }).waitFor()
    await card.getByLabel('Role to give').selectOption('front-desk')
    await card.getByRole('button', { name: 'Give' }).nth(1).click()
    await keeper.getByRole('button', { name: 'Make Pia Lain Front desk' }).click()
    await card.getByRole('button', { name: 'Take Front desk from Pia Lain' }).waitFor()
  })

  it('a gate is switched off and on by keyboard alone, with the board', async () => {
    const keeper = await newPage()
    await comeIn(keeper, application.url, 'ines', '/loft?thing=page:trade&tier=guest')
    const onOff = why(keeper).getByRole('switch', { name: 'Gate Trade desk in force' })
    await onOff.waitFor()
    await keeper.getByRole('grid', { name: 'Who reaches what' }).focus()
    for (let i = 0; i < 12; i++) {
      await keeper.keyboard.press('Tab')
      if (await onOff.evaluate(one => one === document.activeElement)) break
    }
    await keeper.keyboard.press('Space')
    expect(await onOff.getAttribute('aria-checked')).toBe('false')
    await strip(keeper)
      .getByText(/[1-9]\d* gain, 0 lose/)
      .waitFor()
    expect(await cell(keeper, 'page trade', 0).textContent()).toContain('Guest: open, live unseen')
    await keeper.getByText('gate off').first().waitFor()
    await keeper.keyboard.press('Space')
    await strip(keeper).waitFor({ state: 'detached' })
    expect(await cell(keeper, 'page trade', 0).textContent()).toBe('Guest: unseen')
  })

  it('a group is given a part of the site and a person, published, and it holds', async () => {
    const keeper = await newPage()
    await comeIn(keeper, application.url, 'ines', '/loft/who')
    await keeper
      .getByRole('columnheader', { name: /^Islander/ })
      .getByRole('button')
      .click()
    const opens = keeper.getByRole('region', { name: 'What it opens' })
    expect(await opens.getByText('Mending a heel').count()).toBe(0)
    await keeper.getByLabel('What to give this group').fill('mending a heel')
    await keeper.getByRole('button', { name: 'Mending a heel page' }).click()
    await keeper.getByRole('button', { name: 'Give them this page' }).click()
    await keeper.getByText('Islander gets the page “Mending a heel” with the next edition.').waitFor()
    await opens.getByText('Mending a heel').first().waitFor()
    await saved(keeper)
    await strip(keeper)
      .getByRole('button', { name: /^Publish edition/ })
      .click()
    await keeper
      .getByRole('dialog')
      .getByRole('button', { name: /^Publish edition \d+$/ })
      .click()
    await strip(keeper).waitFor({ state: 'detached' })
    await keeper.getByLabel('Give Islander to somebody').fill('pia')
    await keeper.getByRole('button', { name: /^Pia Lain/ }).click()
    await keeper.getByText('Pia Lain has it now.').waitFor()
    const pia = await newPage()
    await comeIn(pia, application.url, 'pia', '/techniques/mending')
    await pia.getByRole('heading', { level: 1, name: 'Mending a heel' }).waitFor()
    expect(await pia.textContent('main')).not.toContain('The rest is for')
    // Others get what they got before.
    const guest = await newPage()
    await guest.goto(`${application.url}/techniques/mending`)
    expect(await guest.textContent('main')).toContain('The rest is for')
    await keeper.getByRole('button', { name: 'Take Islander from Pia Lain' }).click()
    await keeper.getByText('Pia Lain does not hold it any more.').waitFor()
  })

  it('anything is found from anywhere', async () => {
    const keeper = await newPage()
    await comeIn(keeper, application.url, 'ines', '/loft/editions')
    await keeper.getByText('Editions so far').waitFor()
    await keeper.keyboard.press('/')
    await keeper.keyboard.type('gussets')
    await keeper.getByRole('option', { name: 'Underarm gussets page' }).waitFor()
    await keeper.keyboard.press('Enter')
    await why(keeper).getByRole('heading', { name: 'Underarm gussets' }).waitFor()
  })
})

describe("an operator's own empty site", () => {
  it('takes its first keeper by a link that works once', async () => {
    const own = await startApplication('empty')
    onTestFinished(() => own.stop())
    const { makeFirstKeeperLink } = await import('../../server/services/set-up/first-keeper')
    const token = await makeFirstKeeperLink(own.database.db)
    const [keeper, late] = [await newPage(), await newPage()]
    for (const page of [keeper, late]) {
      await page.goto(`${own.url}/first-keeper?token=${token}`)
      await page.getByLabel('Your name').fill('Ada Own')
      await page.getByLabel('E-mail address').fill(page === keeper ? 'ada@own.example' : 'late@own.example')
      await page.getByLabel(/Password/).fill('ten characters')
      await page.getByRole('button', { name: 'Open the loft' }).click()
      if (page === keeper) await page.waitForURL('**/loft')
    }
    await keeper.getByRole('heading', { name: 'Who reaches what' }).waitFor()
    await late.getByRole('alert').getByText('used already').waitFor()
    await keeper.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Site' }).click()
    await makePage(keeper, { title: 'Members', address: '/members' })
    // On no site before it is published.
    expect((await late.goto(`${own.url}/members`))!.status()).toBe(404)
    await keeper.getByRole('link', { name: 'Editions' }).click()
    await keeper.getByRole('button', { name: 'Publish edition 2…' }).first().click()
    await keeper.getByRole('button', { name: 'Publish edition 2', exact: true }).click()
    await keeper.getByRole('heading', { name: 'The draft holds no changes' }).waitFor()
    expect((await late.goto(`${own.url}/members`))!.status()).toBe(200)
  })
})
