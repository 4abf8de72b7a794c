import { readFile } from 'node:fs/promises'
import type { Browser, Page } from 'playwright-core'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { cookieOf, startApplication } from '../support/application'
import type { Application } from '../support/application'
import { addText, publish } from '../support/at-site'
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
const html = async (path: string, headers: Record<string, string> = {}) =>
  (await fetch(application.url + path, { headers })).text()
async function arrange(keeper: Page, use: string, brief: string): Promise<void> {
  await keeper.getByRole('button', { name: 'Arrange…' }).click()
  const dialog = keeper.getByRole('dialog')
  await dialog.getByRole('textbox').first().fill(brief)
  await dialog.getByRole('radio', { name: use }).click()
  await dialog.getByRole('button', { name: 'Show three' }).click()
  await dialog.getByRole('radiogroup', { name: 'Arrangements' }).getByRole('radio').nth(2).waitFor()
}

describe('an arrangement from a brief', () => {
  it('becomes the teaser of what it says nothing of: guests get the one, the Guild the other', async () => {
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/loft/site?path=/visit&as=guest')
    await keeper.getByRole('region', { name: /^The page as/ }).waitFor()
    await addText(keeper, 'The vat is warmed with alum and patience.')
    await keeper.keyboard.press('e')
    await keeper.getByRole('button', { name: /^everyone/ }).click()
    await keeper.keyboard.type('guild or above')
    await keeper.keyboard.press('Enter')
    await keeper.getByText('not sent').first().waitFor()
    await arrange(keeper, 'as its teaser', 'What the dyers tell each other. Then to Join the mill.')
    const dialog = keeper.getByRole('dialog')
    await dialog.getByRole('radiogroup', { name: 'Arrangements' }).getByRole('radio').nth(2).click()
    await dialog
      .getByLabel(/^Words of part/)
      .last()
      .fill('Only the dyers know how warm.')
    await dialog.getByRole('button', { name: 'Keep it as its teaser' }).click()
    await dialog.waitFor({ state: 'detached' })
    await keeper.getByText('Only the dyers know how warm.').first().waitFor()
    await publish(keeper)
    const [guest, guild] = [
      await html('/visit'),
      await html('/visit', { cookie: await cookieOf(application.url, 'guda') }),
    ]
    expect(guest).toContain('Only the dyers know how warm.')
    expect(guest).not.toContain('alum and patience')
    expect(guild).toContain('alum and patience')
    expect(guild).not.toContain('Only the dyers know')
    await keeper.close()
  })

  it('takes the place of a part with its gate, and can be taken back', async () => {
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/loft/site?path=/visit&as=guild')
    await keeper
      .getByRole('group', { name: /^The vat is warmed/ })
      .first()
      .click()
    await arrange(keeper, 'instead of it', 'For dyers. Then to Join the mill.')
    await keeper.getByRole('dialog').getByRole('button', { name: 'Keep it instead of it' }).click()
    await keeper.getByRole('dialog').waitFor({ state: 'detached' })
    await keeper.getByRole('heading', { name: 'For dyers' }).waitFor()
    // It stands on what took its place, so a guest still gets the teaser.
    await keeper
      .getByRole('combobox', { name: 'Looked as' })
      .first()
      .selectOption({ label: 'Guest' })
      .catch(() => {})
    const back = keeper.getByRole('button', { name: 'Take back' })
    await back.click()
    // All of it was one step: the arrangement, its gate, and that the part went.
    await keeper.getByText('Taken back: an arrangement.').waitFor()
    await keeper.getByRole('heading', { name: 'For dyers' }).waitFor({ state: 'detached' })
    await keeper
      .getByRole('group', { name: /^The vat is warmed/ })
      .first()
      .waitFor()
    await keeper.close()
  })
})

describe('the site as files', () => {
  it('is taken as a zip, changed, and brought into the draft after a look at what that does', async () => {
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/loft/site?path=/visit/ferry&as=guest')
    await keeper.getByRole('button', { name: 'as files' }).click()
    const dialog = keeper.getByRole('dialog')
    const [download] = await Promise.all([
      keeper.waitForEvent('download'),
      dialog.getByRole('button', { name: 'Take it as a zip' }).click(),
    ])
    const taken = unzipSync(new Uint8Array(await readFile((await download.path())!)))
    const bring = async (changes: Record<string, string>) =>
      dialog.locator('input[type=file]').setInputFiles({
        name: 'ours.zip',
        mimeType: 'application/zip',
        buffer: Buffer.from(
          zipSync({ ...taken, ...Object.fromEntries(Object.entries(changes).map(([k, v]) => [k, strToU8(v)])) }),
        ),
      })
    await bring({})
    await dialog.getByText('nothing differs').waitFor()
    await dialog
      .locator('input[type=file]')
      .setInputFiles({ name: 'a.zip', mimeType: 'x/y', buffer: Buffer.from('no') })
    await dialog.getByText('This is no zip that can be read.').waitFor()
    await bring({ 'pages/visit/ferry.md': '---\nid: ferry\ntitle: [\n---\n' })
    await dialog.getByText(/pages\/visit\/ferry\.md:\d+/).waitFor()
    // Its pictures are in it, and one that is none is told at its file.
    const [picture] = Object.keys(taken).filter(name => name.startsWith('pictures/'))
    expect(Buffer.from(taken[picture!]!).subarray(1, 4).toString()).toBe('PNG')
    await bring({ [picture!]: 'no picture at all' })
    await dialog.getByText(`${picture}:1`).waitFor()
    await dialog.getByText('This is no picture that can be read').waitFor()
    const ferry = strFromU8(taken['pages/visit/ferry.md']!)
    await bring({ 'pages/visit/ferry.md': ferry.replace(/^title: .*$/m, 'title: By boat') })
    await dialog.getByText('the page ferry').waitFor()
    await dialog.getByRole('button', { name: 'Bring it into the draft' }).click()
    await dialog.getByText('One change is in the draft.').waitFor()
    expect(await html('/visit/ferry')).not.toContain('By boat')
    await dialog.getByRole('button', { name: 'Close' }).click()
    await keeper.getByRole('treeitem', { name: 'By boat' }).waitFor()
    await keeper.close()
  })
})

describe('the words and the look of the site', () => {
  it('are changed at the door, and hold at once in a second browser', async () => {
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/loft/door?tab=words')
    await keeper.getByRole('button', { name: 'Say “Nothing here” apart to guests and people signed in' }).click()
    const guests = keeper.getByLabel('Nothing here, to guests')
    await guests.fill('Lost at sea?')
    await guests.press('Tab')
    await keeper.getByText('Kept, and in force.').waitFor()
    await keeper.getByRole('button', { name: '+ German' }).click()
    await keeper.getByRole('button', { name: 'German', exact: true }).waitFor()
    expect(await html('/no-such-page')).toContain('Lost at sea?')
    expect(await html('/no-such-page', { cookie: await cookieOf(application.url, 'mako') })).toContain('Nothing here')
    expect(await html('/no-such-page', { 'accept-language': 'de' })).toContain('Hier ist nichts')
    await keeper.goto(`${application.url}/loft/door?tab=look`)
    const colour = keeper.getByLabel('Colour of links and buttons').first()
    await colour.fill('#f0d8c8')
    await keeper.getByText(/Links in this colour stand out only/).waitFor()
    expect(await keeper.getByRole('button', { name: 'Keep this look' }).isDisabled()).toBe(true)
    await colour.fill('#1d5c63')
    await keeper.getByRole('button', { name: 'Keep this look' }).click()
    await keeper.getByText('Kept: the public site looks like this now.').waitFor()
    expect(await html('/')).toContain('--madder:#1d5c63')
    await keeper.close()
  })
})
