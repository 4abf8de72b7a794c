import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
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
const sent = async (path: string, cookie = '') => {
  const answer = await fetch(application.url + path, { headers: cookie ? { cookie } : {}, redirect: 'manual' })
  return { status: answer.status, html: await answer.text() }
}

describe('said of the whole site', () => {
  it('is shut in one sentence with two exceptions and one publish, and holds for whoever comes', async () => {
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/loft?row=everything')
    const why = keeper.getByRole('region', { name: 'Why' })
    await why.getByRole('button', { name: /^For some only/ }).click()
    await why.getByRole('button', { name: /^everyone/ }).click()
    await keeper.keyboard.type('signed in')
    await keeper.keyboard.press('Enter')
    const exceptions = why.getByRole('region', { name: 'Exceptions' })
    for (const [words, name] of [
      ['welcome', /^Welcome to the mill/],
      ['/visit', /^Visit the mill/],
    ] as const) {
      await exceptions.getByLabel('Find an exception').fill(words)
      await exceptions.getByRole('checkbox', { name }).check()
    }
    const refused = why.getByRole('region', { name: 'What the refused get' })
    await refused.getByRole('combobox', { name: 'Otherwise' }).selectOption('redirect')
    await refused.getByLabel('Where they are led').fill('/sign-in')
    await refused.getByLabel('Where they are led').press('Tab')
    await keeper.getByRole('button', { name: 'Publish edition 2…' }).click()
    const dialog = keeper.getByRole('dialog')
    await dialog.getByRole('button', { name: 'Publish edition 2' }).click()
    await dialog.waitFor({ state: 'detached' })

    const cookie = await cookieOf(application.url, 'mako')
    const guests = Object.fromEntries(
      await Promise.all(
        ['/', '/visit', '/visit/ferry', '/join', '/shop/yarn', '/sign-in'].map(async path => [
          path,
          (await sent(path)).status,
        ]),
      ),
    )
    expect(guests).toEqual({
      '/': 200,
      '/visit': 200,
      '/visit/ferry': 303,
      '/join': 303,
      '/shop/yarn': 303,
      '/sign-in': 200,
    })
    expect((await sent('/visit/ferry', cookie)).status).toBe(200)
    // The entry of the menu that leads to an exception went with it; what leads elsewhere is not even named.
    const front = (await sent('/')).html
    expect([front.includes('>Visit<'), front.includes('Techniques')]).toEqual([true, false])
  })

  it('a menu says “sign in” to guests and “sign out” to the rest, made in Site by keys', async () => {
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/loft/site?thing=menu:foot')
    const menu = keeper.getByRole('region', { name: 'The menu At the foot' })
    await menu.getByRole('button', { name: '+ Sign in or out' }).click()
    const entry = keeper.getByRole('region', { name: /^The entry/ })
    await entry.getByLabel('Says to guests').fill('Come in')
    await entry.getByLabel('Says to whoever is in').fill('Go out')
    const row = menu.getByRole('row', { name: 'Come in' })
    await row.focus()
    await keeper.keyboard.press('Alt+ArrowUp')
    await expect.poll(() => menu.getByRole('row').last().innerText()).toContain('Trade prices')
    await expect.poll(() => row.getByRole('cell').allInnerTexts()).toEqual(['Come in', ...Array(8).fill('Go out')])
    // An entry that leads where nobody may go says so while it is made.
    await menu.getByRole('button', { name: '+ Entry' }).click()
    const shut = keeper.getByRole('region', { name: 'The entry A new entry' })
    await shut.getByRole('button', { name: 'change' }).click()
    await keeper.keyboard.type('export')
    await shut.getByRole('option', { name: /^Export terms/ }).click()
    await shut.getByText('None of the tiers opens where it leads.').waitFor()
    await shut.getByRole('button', { name: 'Remove' }).click()
    await keeper.getByRole('button', { name: /^\d+ changes?,/ }).click()
    const dialog = keeper.getByRole('dialog')
    await dialog.getByRole('button', { name: /^Publish edition/ }).click()
    await dialog.waitFor({ state: 'detached' })

    const reader = await newPageOf(browser)
    await reader.goto(`${application.url}/visit`)
    const foot = reader.getByRole('contentinfo')
    await foot.getByRole('link', { name: 'Come in' }).click()
    await reader.getByLabel('E-mail address').fill('mako@wexlow.example')
    await reader.getByLabel('Password').fill('wexlow-demo')
    await reader.getByRole('button', { name: 'Sign in', exact: true }).click()
    await reader.waitForURL('**/visit')
    expect(await foot.getByRole('link', { name: 'Come in' }).count()).toBe(0)
    await foot.getByRole('button', { name: 'Go out' }).click()
    await foot.getByRole('link', { name: 'Come in' }).waitFor()
  })
})
