import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { addText, changesIn, publish, say } from '../support/at-site'
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

async function atSite(path: string, as = 'guest'): Promise<Page> {
  const keeper = await newPageOf(browser)
  await comeIn(keeper, application.url, 'ines', `/loft/site?path=${path}&as=${as}`)
  await keeper.getByRole('region', { name: /^The page as/ }).waitFor()
  return keeper
}
const html = async (path: string, cookie = '') =>
  (await fetch(application.url + path, { headers: cookie ? { cookie } : {} })).text()

describe('writing the site where it is seen', () => {
  it('keeps what is written without being told to, cleans what is pasted, and takes it back', async () => {
    const keeper = await atSite('/visit/ferry')
    await keeper.getByRole('heading', { name: 'Boats' }).waitFor()
    await addText(keeper, 'The evening boat waits.')
    const part = keeper.getByRole('group', { name: 'The evening boat waits.', exact: true })
    await part.dblclick()
    const text = keeper.getByRole('textbox', { name: 'The evening boat waits.' })
    await text.press('Control+a')
    await text.press('Control+b')
    await expect.poll(() => text.innerText()).toBe('**The evening boat waits.**')
    await text.press('Control+End')
    await text.evaluate(element => {
      const data = new DataTransfer()
      data.setData(
        'text/html',
        '<p class="MsoNormal" style="color:red"><b>Tickets</b> <a href="/join" onclick="x()">here</a><script>alert(1)</script></p>',
      )
      element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
    })
    await expect.poll(() => text.innerText()).toBe('**The evening boat waits.****Tickets** [here](/join)')
    await text.press('Escape')
    await changesIn(keeper, 1)
    expect(await html('/visit/ferry')).not.toContain('evening boat')
    await keeper.getByRole('link', { name: 'here' }).waitFor()
    // Step by step what was written goes, and at last the part itself.
    const changes = keeper.getByRole('button', { name: /^\d+ changes?,/ })
    const takeBack = keeper.getByRole('button', { name: 'Take back' })
    let steps = 0
    while (await takeBack.isEnabled()) {
      await takeBack.click()
      await keeper.getByText(/^Taken back/).waitFor()
      steps++
    }
    await changes.waitFor({ state: 'detached' })
    expect(steps).toBeGreaterThan(1)
    await keeper.getByRole('button', { name: 'Do again' }).click()
    await changesIn(keeper, 1)
    await keeper.getByRole('button', { name: 'Do again' }).click()
    await keeper
      .getByRole('group', { name: /The evening boat waits/ })
      .first()
      .waitFor()
    await keeper.reload()
    await keeper
      .getByRole('group', { name: /The evening boat waits/ })
      .first()
      .waitFor()
    await keeper.getByRole('treeitem', { name: 'Boats' }).waitFor()
  })

  it('makes alternatives of a copied pair: each visitor gets one, and their bytes hold no other', async () => {
    const keeper = await atSite('/visit')
    await addText(keeper, 'Come to the Guild table.')
    await say(keeper, 'guild or above')
    await keeper.getByText('not sent').first().waitFor()
    await keeper.getByRole('button', { name: 'Copy', exact: true }).click()
    const copy = keeper.getByRole('group', { name: 'Come to the Guild table.', exact: true }).nth(1)
    await copy.waitFor()
    await keeper.keyboard.press('Enter')
    await keeper.locator('.cm-content').fill('Tea is poured at four.')
    await keeper.keyboard.press('Escape')
    const card = keeper.getByRole('region', { name: 'Who gets Tea is poured at four.' })
    await card.getByRole('button', { name: /^Guild or above/ }).focus()
    await keeper.keyboard.press('n')
    await keeper.getByRole('button', { name: 'Join them' }).click()
    await keeper.getByText('Every possible visitor gets exactly one.').waitFor()
    await keeper.getByRole('button', { name: 'Tea is poured at four.' }).first().waitFor()
    await publish(keeper)
    const [guest, guild] = [await html('/visit'), await html('/visit', await cookieOf(application.url, 'guda'))]
    expect([guest.includes('Tea is poured'), guest.includes('Guild table')]).toEqual([true, false])
    expect([guild.includes('Tea is poured'), guild.includes('Guild table')]).toEqual([false, true])
  })

  it('shows a part that was wrapped among alternatives, an empty group, and after a reload what was open', async () => {
    const keeper = await atSite('/visit')
    await addText(keeper, 'The weir is loud today.')
    await keeper.getByRole('button', { name: 'Give the others something else' }).click()
    await keeper.getByText('One of two', { exact: false }).first().waitFor()
    await keeper
      .getByRole('group', { name: 'One of several' })
      .first()
      .getByRole('button', { name: 'The weir is loud today.' })
      .click()
    await keeper.getByRole('combobox', { name: 'Wrap The weir is loud today.' }).selectOption('1')
    const page = keeper.getByRole('region', { name: /^The page as/ })
    await page.getByText('The weir is loud today.').first().waitFor()
    expect(await page.getByText('stands here for Guest').count()).toBe(0)

    // A group nothing stands in has a height, and can be chosen.
    await keeper.evaluate(() =>
      fetch('/api/loft/things/block', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ id: 'hollow', kind: 'group', in: { page: 'visit' }, body: {} }),
      }),
    )
    await keeper.reload()
    const hollow = keeper.locator('[data-part=hollow]')
    await hollow.getByText('stands in it yet').waitFor()
    await hollow.click()
    await keeper.getByRole('region', { name: /^Who gets group/ }).waitFor()

    await keeper.getByLabel('Find by name or address').fill('main')
    await keeper.getByRole('treeitem', { name: 'Main' }).click()
    const menu = keeper.getByRole('region', { name: 'The menu Main' })
    await menu.waitFor()
    await expect.poll(() => keeper.url()).toContain('thing=menu:main')
    await keeper.reload()
    await menu.waitFor()
    await keeper.getByRole('treeitem', { name: /^Boats/ }).click()
    await expect.poll(() => keeper.url()).toContain('path=/visit/ferry')
    expect(keeper.url()).not.toContain('thing=')
    await publish(keeper)
  })

  it('makes a passage of a sentence, whose words a guest is not sent; one without an end is published nowhere', async () => {
    const keeper = await atSite('/visit/ferry')
    await addText(keeper, 'The door is on the left. The key hangs behind the loom.')
    await keeper.keyboard.press('Enter')
    const text = keeper.locator('.cm-content')
    await text.focus()
    await text.press('Control+End')
    for (let words = 0; words < 6; words++) await keeper.keyboard.press('Control+Shift+ArrowLeft')
    await keeper.keyboard.press('e')
    await keeper.getByRole('group', { name: 'A passage for some' }).getByRole('combobox').fill('maker or above')
    await keeper.keyboard.press('Enter')
    await expect.poll(() => text.innerText()).toContain('{who="Maker or above"}')
    await keeper.keyboard.press('Escape')
    await keeper.getByRole('group', { name: /^Passage: / }).waitFor()
    await changesIn(keeper, 1)
    await publish(keeper)
    const [guest, maker] = [
      await html('/visit/ferry'),
      await html('/visit/ferry', await cookieOf(application.url, 'mako')),
    ]
    expect([guest.includes('The door is on the left'), guest.includes('loom.')]).toEqual([true, false])
    expect(guest).not.toMatch(/:for|who=|passage/)
    expect(maker).toContain('behind the loom.')

    await keeper.keyboard.press('Enter')
    await text.focus()
    await text.fill('The door is on the left.\n\n:::for{who="Maker or above"}\nThe key hangs behind the loom.')
    await keeper.getByText(/Line 3: This passage has no end/).waitFor()
    await keeper.keyboard.press('Escape')
    await changesIn(keeper, 1)
    await keeper.getByRole('button', { name: /^1 change,/ }).click()
    const dialog = keeper.getByRole('dialog')
    await dialog.getByRole('button', { name: /^Publish edition/ }).click()
    await dialog.getByText('A passage in its text is not right').waitFor()
    // Nor is it sent to anybody who walks the draft.
    await dialog.getByRole('button', { name: 'Back to the draft' }).click()
    const opened = keeper.context().waitForEvent('page')
    await keeper.getByRole('button', { name: 'As sent, in a window' }).click()
    expect(await (await opened).content()).not.toMatch(/behind the loom|door is on/)
  })
})
