/** Searching the site: as a guest, a member and the keeper, while one types and without a script. */
import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { signedIn, startApplication } from '../support/application'
import type { Application } from '../support/application'
import { launchBrowser, newPageOf } from '../support/browser'
import { comeIn } from '../support/come-in'
import { rawRequest } from '../support/raw-request'

let application: Application
let browser: Browser
beforeAll(async () => {
  ;[application, browser] = await Promise.all([startApplication(), launchBrowser()])
})
afterAll(async () => {
  await browser?.close()
  await application?.stop()
})

describe('searching the site', () => {
  it('finds while one types what is for whoever types, quotes it, and leads there', async () => {
    const guest = await newPageOf(browser)
    await guest.goto(application.url)
    await guest.getByRole('searchbox').fill('mad')
    await guest.keyboard.press('Enter')
    await guest.waitForURL('**/search?q=mad')
    const found = guest.locator('#found')
    await found.getByRole('link', { name: 'Madder, slowly' }).waitFor()
    expect(await found.getByRole('listitem').filter({ hasText: 'Madder, slowly' }).innerText()).toContain('for members')
    // Letter by letter, with no key for it.
    await guest.getByRole('searchbox').fill('')
    await guest.getByRole('searchbox').pressSequentially('drystone wa', { delay: 30 })
    await found.getByText('Follow the drystone wall inland').waitFor()
    expect(await found.locator('mark').allInnerTexts()).toEqual(['drystone', 'wall'])
    expect(new URL(guest.url()).searchParams.get('q')).toBe('drystone wa')
    await guest.getByRole('searchbox').fill('tension swatch')
    await found.getByText('Nothing is found for “tension swatch”.').waitFor()

    const member = await newPageOf(browser)
    await comeIn(member, application.url, 'guda', '/search?q=tension+swatch')
    await member.locator('#found').getByText('swatch of lesson two').waitFor()
    await member.locator('#found').getByRole('link').first().click()
    await member.waitForURL('**/techniques/colour')
    await member.getByText('swatch of lesson two').waitFor()

    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/search?q=swach')
    await keeper.getByText('Nothing is written quite so; this comes near.').waitFor()
    await keeper.goto(`${application.url}/loft`)
    await keeper.getByRole('button', { name: /^Find anything/ }).click()
    await keeper.keyboard.type('second stile')
    await keeper.getByRole('option', { name: /^Finding the mill.*second stile/ }).click()
    await keeper.waitForURL('**/loft/site?path=/visit/from-the-north-quay**')
    for (const one of [guest, member, keeper]) await one.context().close()
  })

  it('answers whatever is asked, keeps nothing, and runs no script but its own', async () => {
    const ask = (q: string, cookie = '') =>
      fetch(`${application.url}/search?${new URLSearchParams({ q })}`, { headers: { cookie } })
    const long = await rawRequest(application.url, `/search?q=${"(!*-')".repeat(1800)}`)
    expect([long.status, long.headers['cache-control']]).toEqual([200, 'private, no-store'])
    expect(long.headers['content-security-policy']).toContain("script-src 'self';")
    expect(long.text).toContain('at most 200 signs')
    const odd = await (await ask('<b>"\'\u0000</b>')).text()
    expect(odd).not.toContain('<b>"')
    for (const q of ['', '   ', 'the', '"', '-', 'a'.repeat(200)]) expect((await ask(q)).status).toBe(200)
    expect((await fetch(`${application.url}/search?q=a&q=b`)).status).toBe(200)
  })

  it('is walked as any tier, and in the console shows words to whom they are theirs to look at', async () => {
    const ines = await signedIn(application.url, 'ines')
    const walk = await ines('/api/loft/walk', {
      method: 'POST',
      json: {
        tier: 'guild',
        visitor: { person: { id: 't' }, levels: [{ level: 'guild', since: '2026-01-01T00:00:00Z' }] },
        draft: false,
      },
    })
    const { base } = (await walk.json()) as { base: string }
    const walked = await (await ines(`${base}/search?q=welts`)).text()
    expect(walked).toContain(`href="${base}/techniques/gansey/welts"`)
    const dace = await signedIn(application.url, 'dace')
    const [keeper, desk] = await Promise.all(
      [ines, dace].map(async one => (await one('/api/loft/search?q=stile')).json() as Promise<unknown[]>),
    )
    expect([keeper!.length > 0, desk]).toEqual([true, []])
  })
})
