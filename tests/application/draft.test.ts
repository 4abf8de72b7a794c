import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startApplication } from '../support/application'
import type { Application } from '../support/application'
import { launchBrowser, newPageOf } from '../support/browser'
import { addText, changesIn, makePage } from '../support/at-site'
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

const status = async (path: string) => (await fetch(application.url + path, { redirect: 'manual' })).status
const html = async (path: string) => (await fetch(application.url + path)).text()

async function keeping(): Promise<Page> {
  const page = await newPageOf(browser)
  await comeIn(page, application.url, 'ines')
  await page.waitForURL('**/loft')
  return page
}

describe('one draft of rules and content', () => {
  it('a page and its gate go live together while a third change waits, and all goes back', async () => {
    const keeper = await keeping()
    const dialog = keeper.getByRole('dialog')
    const place = (name: string) =>
      keeper.getByRole('navigation', { name: 'Places' }).getByRole('link', { name }).click()

    await place('Site')
    await makePage(keeper, { title: 'Loom hall', address: '/loom-hall' })
    await addText(keeper, 'Twelve looms, and a stove.')
    await changesIn(keeper, 2)
    expect([await status('/loom-hall'), await html('/')]).toEqual([404, expect.not.stringContaining('Loom hall')])

    // Its gate, where it is seen; the board of the draft has the page already.
    await keeper.getByRole('heading', { name: 'Loom hall' }).click()
    await keeper.keyboard.press('e')
    await keeper.getByRole('button', { name: /^everyone/ }).click()
    await keeper.keyboard.type('guild')
    await keeper.getByRole('option', { name: 'Guild or above', exact: true }).click()
    await keeper.getByText('The whole page is not sent to Guest.').waitFor()
    await changesIn(keeper, 3)
    await keeper.getByRole('link', { name: 'Why, on the board' }).click()
    await keeper.getByRole('region', { name: 'Why' }).getByRole('heading', { name: 'Loom hall' }).waitFor()
    await keeper.getByText('3 changes in the draft').waitFor()

    // A third change, of something else.
    await place('Site')
    await keeper.getByRole('treeitem', { name: /^Visit the mill/ }).click()
    await keeper.getByRole('heading', { name: 'Visit the mill' }).dblclick()
    await keeper.getByLabel('Title', { exact: true }).fill('Come and see')
    await changesIn(keeper, 4)

    await place('Editions')
    await keeper.getByText('4 of 4 ticked').waitFor()
    await keeper.getByRole('checkbox', { name: 'Publish Come and see' }).uncheck()
    await keeper.getByText('3 of 4 ticked').waitFor()
    // The gate cannot be left behind: it is ticked again with its page.
    await keeper.getByRole('checkbox', { name: 'Publish Loom hall' }).last().click()
    await keeper.getByText('What goes only together was ticked with it.').waitFor()
    await keeper.getByText('3 of 4 ticked').waitFor()
    await keeper.getByRole('button', { name: 'Publish edition 2…' }).click()
    await dialog.getByText('The rest stays in the draft.').waitFor()
    await dialog.getByLabel('Note for this edition').fill('The loom hall')
    await dialog.getByRole('button', { name: 'Publish edition 2' }).click()
    await keeper.getByRole('heading', { name: /Edition 3 would move/ }).waitFor()
    expect(await keeper.getByRole('checkbox').count()).toBe(1)

    // Live with its gate from its first moment; the third change is not.
    expect([await status('/loom-hall'), await html('/visit')]).toEqual([
      404,
      expect.not.stringContaining('Come and see'),
    ])
    const guda = await newPageOf(browser)
    await comeIn(guda, application.url, 'guda', '/account')
    await guda.goto(`${application.url}/loom-hall`)
    await guda.getByText('Twelve looms, and a stove.').waitFor()

    // Any edition can be walked as any visitor, also one before the page was there.
    await keeper.getByRole('link', { name: 'Walk it' }).click()
    await keeper.getByRole('heading', { name: 'Welcome to the mill' }).waitFor()
    await keeper.getByRole('treeitem', { name: /^Loom hall/ }).waitFor({ state: 'detached' })
    await keeper.goto(`${application.url}/loft/site?edition=1&path=/loom-hall`)
    await keeper.getByText('There is no page at this address').waitFor()

    await place('Editions')
    await keeper.getByRole('link', { name: 'Its board' }).click()
    await keeper.getByText('Edition 1, as it was').waitFor()
    await expect.poll(() => keeper.locator('main').innerText()).not.toContain('Loom hall')
    await keeper.getByRole('link', { name: 'Back to editions' }).click()

    await keeper.getByRole('button', { name: 'Back to it…' }).click()
    await dialog.getByRole('button', { name: 'Publish it at once' }).click()
    await keeper.getByText('Edition 3 is live').waitFor()
    expect((await guda.goto(`${application.url}/loom-hall`))!.status()).toBe(404)
    // What waited still waits.
    await keeper.getByRole('checkbox', { name: 'Publish Come and see' }).waitFor()
  })

  it('an edition planned for a time is published once the clock says so', async () => {
    const keeper = await keeping()
    await keeper.goto(`${application.url}/loft/site`)
    await keeper.getByRole('treeitem', { name: /^Boats/ }).click()
    await keeper.getByRole('heading', { name: 'Boats' }).dblclick()
    await keeper.getByLabel('Title', { exact: true }).fill('The evening boat')
    await keeper.getByRole('button', { name: /1 here/ }).waitFor()
    await keeper.goto(`${application.url}/loft/editions`)
    await keeper.getByRole('button', { name: /Publish edition \d…/ }).click()
    const dialog = keeper.getByRole('dialog')
    await dialog.getByText('At a time').click()
    const tomorrow = new Date(Date.now() + 86_400_000).toISOString().slice(0, 16)
    await dialog.getByLabel("When, on the site's own clock").fill(tomorrow)
    await dialog.getByRole('button', { name: 'Plan it' }).click()
    // A refusal stands in the dialog: then this says which.
    await expect.poll(async () => (await dialog.count()) && (await dialog.innerText())).toBe(0)
    await keeper.getByRole('region', { name: 'Planned' }).waitFor()
    expect(await html('/visit')).not.toContain('The evening boat')
    // Two days later: for this server, the time has come.
    application.halt()
    const later = await application.another({ BRAVIK_CLOCK_OFFSET_MS: String(2 * 86_400_000) })
    await expect
      .poll(async () => (await fetch(`${later}/visit`)).text().then(text => text.includes('The evening boat')))
      .toBe(true)
  })
})
