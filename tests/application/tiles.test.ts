import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { addText, publish, say } from '../support/at-site'
import { cookieOf, startApplication } from '../support/application'
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

const html = async (path: string, name?: string) => {
  const cookie = name && (await cookieOf(application.url, name))
  return (await fetch(application.url + path, { headers: cookie ? { cookie } : {} })).text()
}
const add = async (page: Page, kind: RegExp) => {
  await page.getByRole('button', { name: /^\+ Part/ }).click()
  await page.getByRole('option', { name: kind }).click()
}
describe('tiles', () => {
  it('are one set for several groups, put into order by drag', async () => {
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/loft/site?path=/visit/ferry&as=stockist')
    await keeper.getByRole('region', { name: /^The page as/ }).waitFor()
    await add(keeper, /^Columns/)
    await keeper.getByRole('region', { name: 'Who gets columns' }).waitFor()
    const heading = keeper.getByRole('textbox', { name: 'Heading' })
    const tile = (name: string) => keeper.getByRole('group', { name, exact: true })
    for (const name of ['Crates at the quay', 'The long shed']) {
      await add(keeper, /^Member/)
      await keeper.getByRole('region', { name: 'Who gets member’s tile' }).waitFor()
      await heading.fill(name)
      await keeper.keyboard.press('Escape')
      await tile(name).waitFor()
    }
    const names = () => keeper.locator('[data-part] .panel h2').allTextContents()
    await expect.poll(names).toEqual(['Crates at the quay', 'The long shed'])
    // Both in sight: what scrolls between being pressed and moved is not what was pressed.
    await tile('The long shed').evaluate(one => one.scrollIntoView({ block: 'center' }))
    await tile('The long shed').dragTo(tile('Crates at the quay'), {
      sourcePosition: { x: 30, y: 40 },
      targetPosition: { x: 30, y: 5 },
    })
    await expect.poll(names).toEqual(['The long shed', 'Crates at the quay'])
    // The one that was dragged is still at hand.
    await keeper.getByRole('region', { name: 'Who gets The long shed' }).waitFor()
    await keeper.getByRole('button', { name: 'the group around it', exact: true }).click()
    await keeper.getByRole('region', { name: 'Who gets columns' }).waitFor()
    await say(keeper, 'stockist or classroom')
    await keeper.getByLabel('As which tier').selectOption('guest')
    await keeper.getByText('not sent').first().waitFor()
    await publish(keeper)

    const [guest, stockist] = [await html('/visit/ferry'), await html('/visit/ferry', 'stella@gullhaven.example')]
    expect(guest).not.toMatch(/Crates at the quay|The long shed/)
    expect(stockist).toMatch(/The long shed[^]*Crates at the quay/)
  })
})

describe('what is out of reach', () => {
  it('keeps its first words where it is dimmed, and has a look of the site’s own for whom it opens', async () => {
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/loft/door?tab=look')
    await keeper.getByLabel('Name of a new look').fill('By the fire')
    await keeper.keyboard.press('Enter')
    await keeper.getByLabel('Name of the look By the fire').waitFor()
    await keeper.getByRole('button', { name: 'Keep this look' }).click()
    await keeper.getByRole('button', { name: 'As it was' }).waitFor({ state: 'detached' })
    await keeper.goto(`${application.url}/loft/site?path=/visit&as=guest`)
    await keeper.getByRole('region', { name: /^The page as/ }).waitFor()
    await addText(keeper, 'The copper is lit on Thursdays. Bring the **madder** by six.')
    await say(keeper, 'guild or above')
    const card = keeper.getByRole('region', { name: /^Who gets The copper is lit/ })
    await card.getByLabel('Otherwise').selectOption('dimmed')
    await card.getByRole('checkbox', { name: 'first words' }).check()
    await card.getByLabel('Another look').selectOption({ label: 'By the fire' })
    await keeper.getByText('The copper is lit').first().waitFor()
    await publish(keeper)

    const [guest, guild] = [await html('/visit'), await html('/visit', 'guda')]
    expect(guest).toContain('The copper is lit')
    expect(guest).not.toContain('madder</strong>')
    expect(guild).toContain('<strong>madder</strong>')
    expect(guild).toMatch(/class="[^"]*by-the-fire/)
    expect(guest).not.toMatch(/class="[^"]*by-the-fire/)
  })
})
