/** Feeds, the site map and what machines are told: each says what whoever asks may know, and no more. */
import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { cookieOf, signedIn, startApplication } from '../support/application'
import type { Application } from '../support/application'
import { launchBrowser, newPageOf } from '../support/browser'
import { comeIn } from '../support/come-in'

let application: Application
let browser: Browser
beforeAll(async () => {
  ;[application, browser] = await Promise.all([
    startApplication('demo', { BRAVIK_ADDRESS: 'https://mill.example' }),
    launchBrowser(),
  ])
})
afterAll(async () => {
  await browser?.close()
  await application?.stop()
})
const ask = (path: string, headers: Record<string, string> = {}) =>
  fetch(application.url + path, { headers, redirect: 'manual' })
const text = async (path: string, headers: Record<string, string> = {}) => (await ask(path, headers)).text()
const linksIn = (xml: string) => [...xml.matchAll(/<link href="([^"]*)"\/?>/g)].map(found => found[1]!)

describe('feeds', () => {
  it('are Atom, the newest first, with the words of what opens, kept by everybody where they are for everybody', async () => {
    const answer = await ask('/feed')
    expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'application/atom+xml; charset=utf-8'])
    const xml = await answer.text()
    expect(xml).toMatch(/^<\?xml version="1\.0" encoding="utf-8"\?>\s*<feed xmlns="http:\/\/www\.w3\.org\/2005\/Atom"/)
    expect(linksIn(xml).filter(one => one.includes('/notes/'))).toEqual([
      'https://mill.example/notes/madder-day',
      'https://mill.example/notes/nine-flocks',
      'https://mill.example/notes/wheel-mended',
    ])
    expect(xml).toContain('We kept the vat under sixty degrees')
    expect(xml).not.toContain('Sowing woad')
    const again = await ask('/feed', { 'if-none-match': answer.headers.get('etag')! })
    expect(again.status).toBe(304)
    expect(linksIn(await text('/feed/dye-days')).filter(one => one.includes('/notes/'))).toEqual([
      'https://mill.example/notes/madder-day',
    ])
    expect([(await ask('/feed/no-such')).status, (await ask('/feed/own/no-such')).status]).toEqual([404, 404])
  })

  it('have a private address for each member, which a new one ends; and staff are readers like others there', async () => {
    const member = await newPageOf(browser)
    await comeIn(member, application.url, 'guda', '/account/profile')
    await member.getByRole('button', { name: 'Make an address' }).click()
    const address = async () => new URL(await member.locator('code.address').innerText()).pathname
    const first = await address()
    expect(await text(first)).toContain('Sowing woad with the Guild')
    expect(await text(first)).toContain('The Guild sowed the long bed.')
    await member.getByRole('button', { name: 'Another address in place of this' }).click()
    await member.getByText('This is your new address.').waitFor()
    const second = await address()
    expect([(await ask(first)).status, (await ask(second)).status]).toEqual([404, 200])
    expect((await ask(second)).headers.get('cache-control')).toBe('private, no-cache')
    const ines = await signedIn(application.url, 'ines')
    await ines('/api/loft/people/p-guda', { method: 'PUT', json: { suspended: true } })
    await ines('/account/profile', {
      method: 'POST',
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
      body: 'what=feed',
    })
    const profile = await (await ines('/account/profile')).text()
    const own = new URL(/<code class="address">([^<]*)</.exec(profile)![1]!).pathname
    const read = await text(own)
    expect(read).toContain('Sowing woad with the Guild')
    expect(read).not.toContain('The Guild sowed the long bed.')
    await member.context().close()
  })
})

describe('what search engines are told', () => {
  it('is the map of what whoever asks may find, and where not to look', async () => {
    const map = await text('/sitemap.xml')
    expect(map).toContain('<loc>https://mill.example/techniques/colour</loc>')
    expect(map).not.toContain('/trade')
    expect(map).not.toContain('woad-sowing')
    const cookie = await cookieOf(application.url, 'stella@gullhaven.example')
    expect(await text('/sitemap.xml', { cookie })).toContain('<loc>https://mill.example/trade</loc>')
    expect((await ask('/sitemap/2.xml')).status).toBe(404)
    expect(await text('/robots.txt')).toContain('Sitemap: https://mill.example/sitemap.xml')
  })

  it('is on each page what the page is, and that a part of it is for some', async () => {
    const linked = (html: string) =>
      JSON.parse(/<script type="application\/ld\+json">(.*?)<\/script>/s.exec(html)![1]!) as Record<string, unknown>
    const open = await text('/notes/madder-day')
    expect(linked(open)).toMatchObject({ '@type': 'Article', isAccessibleForFree: true, datePublished: '2026-10-05' })
    expect(open).toContain('<link rel="canonical" href="https://mill.example/notes/madder-day">')
    expect(open).toContain('<meta property="og:title" content="A day at the madder vat">')
    const teased = await text('/techniques/colour')
    expect(linked(teased)).toMatchObject({
      isAccessibleForFree: false,
      hasPart: { '@type': 'WebPageElement', isAccessibleForFree: false, cssSelector: '.for-some' },
    })
    expect(teased).toContain('for-some')
    for (const path of ['/trade', '/nowhere', '/search?q=trade']) {
      const html = await text(path)
      expect([html.includes('ld+json'), html.includes('og:')]).toEqual([false, false])
    }
  })
})
