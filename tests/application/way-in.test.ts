import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { signedIn, startApplication } from '../support/application'
import type { Application } from '../support/application'
import { launchBrowser, newPageOf } from '../support/browser'
import { comeIn } from '../support/come-in'

let application: Application
let browser: Browser
let keeper: Awaited<ReturnType<typeof signedIn>>
beforeAll(async () => {
  ;[application, browser] = await Promise.all([startApplication(), launchBrowser()])
  keeper = await signedIn(application.url, 'ines')
})
afterAll(async () => {
  await browser?.close()
  await application?.stop()
})
const told = async (path: string) => (await (await keeper(path)).json()) as Record<string, number>
const people = async () => (await told('/api/loft/people?q=%7B%7D')).count

describe('the way in', () => {
  it('is walked as a made-up stranger, from the form to where they land, and nothing of them is left', async () => {
    const page = await newPageOf(browser)
    await comeIn(page, application.url, 'ines', '/loft/door')
    const [before, many] = [await told('/api/loft/door'), await people()]

    // Whoever has many spindles is looked at first, said in a sentence.
    await page.getByLabel('Whether somebody looks at them').selectOption('those')
    const who = page.getByRole('combobox', { name: 'Whom somebody looks at first' })
    await who.fill('fact spindles owned at least 10')
    await who.press('Enter')
    await page.getByText('Kept, and in force.').waitFor()

    await page.getByRole('button', { name: 'try it as a stranger' }).click()
    const dialog = page.getByRole('dialog', { name: 'As a stranger' })
    const site = page.frameLocator('iframe')
    await site.getByLabel('Your name').fill('Nell Orr')
    await site.getByLabel(/^Password/).fill('short')
    await site.getByLabel(/Spindles owned/).fill('12')
    await site.getByRole('button', { name: 'Sign up' }).click()
    await site.getByText('A password has ten characters or more.').waitFor()
    await site.getByLabel(/^Password/).fill('harbour lights')
    await site.getByRole('button', { name: 'Sign up' }).click()
    await site.getByText('Look in your mail').waitFor()
    const confirm = dialog.getByRole('article', { name: 'Is this your address?' })
    await confirm.getByRole('button', { name: 'Follow its link' }).click()
    await site.getByLabel('The password you chose').fill('harbour lights')
    await site.getByRole('button', { name: 'Confirm and come in' }).click()
    await site.getByText('One of us looks at each sign-up by hand').waitFor()
    await dialog.getByText('Nell Orr waits to be looked at.').waitFor()
    await dialog.getByRole('button', { name: 'Let them in' }).click()
    const welcome = dialog.getByRole('article', { name: 'Come in' })
    await welcome.getByRole('button', { name: 'Follow its link' }).click()
    const email = (await dialog.locator('b').first().innerText()).trim()
    await site.getByLabel('E-mail address').fill(email)
    await site.getByLabel('Password').fill('harbour lights')
    await site.getByRole('button', { name: 'Sign in' }).click()
    await site.getByRole('heading', { name: 'Your account' }).waitFor()
    // What is theirs alone is told to them; a page of the site is theirs too.
    await site.getByText('Friend').first().waitFor()
    expect(await people()).toBe(many! + 1)
    // Whoever walks is still themselves.
    await page.getByRole('button', { name: 'Done: they are gone' }).click()
    await dialog.waitFor({ state: 'detached' })
    await expect.poll(people).toBe(many)
    const after = await told('/api/loft/door')
    for (const key of ['came', 'filled', 'unconfirmed', 'waiting', 'signedIn'])
      expect([key, after[key]]).toEqual([key, before[key]])
    expect((await keeper('/api/loft/people?q=%7B%7D')).status).toBe(200)
    await page.reload()
    await page.getByText('Those who are').waitFor()
  })

  it('asks some of what it does not ask others, and takes it from nobody else', async () => {
    const { settings } = (await (await keeper('/api/loft/settings')).json()) as { settings: { 'sign-up': object } }
    const signUp = { ...settings['sign-up'], lookAt: null, confirmByMail: false }
    const asked = [{ fact: 'spindles', required: true, of: { device: { in: ['phone'] } } }]
    const put = (json: object) => keeper('/api/loft/settings/sign-up', { method: 'PUT', json })
    expect((await put({ ...signUp, facts: asked })).status).toBe(204)
    const phone =
      'Mozilla/5.0 (iPhone; CPU iPhone OS 17_0 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/17.0 Mobile/15E148 Safari/604.1'
    const desk = 'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/126.0 Safari/537.36'
    const form = async (agent: string) =>
      (await fetch(`${application.url}/sign-up`, { headers: { 'user-agent': agent } })).text()
    expect([(await form(phone)).includes('fact-spindles'), (await form(desk)).includes('fact-spindles')]).toEqual([
      true,
      false,
    ])
    const send = (agent: string, email: string, more: Record<string, string>) =>
      fetch(`${application.url}/sign-up`, {
        method: 'POST',
        redirect: 'manual',
        headers: { 'user-agent': agent, 'content-type': 'application/x-www-form-urlencoded' },
        body: new URLSearchParams({ name: 'Nell Orr', email, password: 'harbour lights', ...more }).toString(),
      })
    expect((await send(phone, 'phone@orr.example', {})).status).toBe(422)
    expect((await send(phone, 'phone@orr.example', { 'fact-spindles': '3' })).status).toBe(303)
    expect((await send(desk, 'desk@orr.example', { 'fact-spindles': '3' })).status).toBe(303)
    const factsOf = async (search: string) => {
      const q = encodeURIComponent(JSON.stringify({ search }))
      const { people: found } = (await (await keeper(`/api/loft/people?q=${q}`)).json()) as { people: { id: string }[] }
      const { visitor } = (await (await keeper(`/api/loft/people/${found[0]!.id}`)).json()) as {
        visitor: { facts: object }
      }
      return visitor.facts
    }
    expect(await factsOf('phone@orr')).toEqual({ spindles: 3 })
    expect(await factsOf('desk@orr')).toEqual({})
    await put({ ...settings['sign-up'], lookAt: null })
  })

  it('walks no further than the way in and out, for nobody else, and never into the loft', async () => {
    const made = (await (await keeper('/api/loft/door/stranger', { method: 'POST', json: {} })).json()) as {
      base: string
      pass: string
    }
    const at = (path: string, init: Parameters<typeof keeper>[1] = {}) => keeper(made.base + path, init)
    const page = await (await at('/visit')).text()
    expect(page).toContain(`href="${made.base}/sign-in`)
    expect(page).not.toMatch(/(href|src|action)="\/(?!_nuxt\/|\/|walk\/stranger\/)/)
    expect((await at('/loft')).status).toBe(404)
    expect((await at('/api/loft/start')).status).toBe(404)
    expect((await at('/metrics')).status).toBe(404)
    const form = { method: 'POST', headers: { 'content-type': 'application/x-www-form-urlencoded' }, body: 'x=1' }
    expect((await at('/account/profile', form)).status).toBe(403)
    // Not for a guest, not for another of the staff, not with a letter changed.
    expect((await fetch(application.url + made.base + '/visit')).status).toBe(403)
    const hand = await signedIn(application.url, 'dace')
    expect((await hand(`${made.base}/visit`)).status).toBe(403)
    expect((await keeper(`${made.base}x/visit`)).status).toBe(403)
    // What the stranger signs in as is the stranger's browser's alone.
    const cookie = (await at('/sign-up')).headers.getSetCookie().join('\n')
    expect(cookie).not.toMatch(/^bravik_session/m)
    await keeper('/api/loft/door/stranger/end', { method: 'POST', json: { pass: made.pass } })
  })
})
