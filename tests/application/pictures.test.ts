import type { Browser } from 'playwright-core'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { cookieOf, signedIn, startApplication } from '../support/application'
import type { Application } from '../support/application'
import { changesIn } from '../support/at-site'
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
const png = (colour: string) =>
  sharp({ create: { width: 120, height: 60, channels: 3, background: colour } })
    .png()
    .toBuffer()
const ask = (path: string, headers: Record<string, string> = {}) =>
  fetch(application.url + path, { headers, redirect: 'manual' })
const pictureIn = (html: string, part: string) =>
  new RegExp(`src="(/picture/block/${part}/[^"]*)"`).exec(html)?.[1]?.replaceAll('&amp;', '&')

describe('a picture from a file', () => {
  it('is chosen where it stands, gated with its part, and sent to nobody else by its address', async () => {
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/loft/site?path=/visit&as=guest')
    await keeper.getByRole('region', { name: /^The page as/ }).waitFor()
    await keeper.getByRole('button', { name: /^\+ Part/ }).click()
    await keeper.getByRole('option', { name: /^Picture/i }).click()
    const choose = keeper.getByLabel('Picture: choose a file')
    // What is not what its name says is told at the field, and nothing of what was written is lost.
    await choose.setInputFiles({ name: 'mill.png', mimeType: 'image/png', buffer: Buffer.from('no picture at all') })
    await keeper.getByText('This is no picture that can be read').waitFor()
    await keeper.getByLabel('What the picture shows').fill('The vat by night')
    const bytes = await png('#1f3f60')
    await choose.setInputFiles({ name: 'vat.png', mimeType: 'image/png', buffer: bytes })
    await keeper.getByText('120 × 60 pixels').waitFor()
    const shown = keeper.getByRole('region', { name: /^The page as/ }).getByRole('img', { name: 'The vat by night' })
    await expect.poll(() => shown.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(120)
    await keeper.getByRole('button', { name: /^For some only/ }).click()
    await keeper.getByRole('button', { name: /^everyone/ }).click()
    await keeper.keyboard.type('guild or above')
    await keeper.keyboard.press('Enter')
    await changesIn(keeper, 2)
    await keeper.getByRole('button', { name: /^2 changes,/ }).click()
    const dialog = keeper.getByRole('dialog')
    await dialog.getByRole('button', { name: /^Publish edition/ }).click()
    await dialog.waitFor({ state: 'detached' })

    const cookie = await cookieOf(application.url, 'guda')
    const html = await (await ask('/visit', { cookie })).text()
    const part = /src="\/picture\/block\/([^/]+)\//.exec(html)![1]!
    const address = pictureIn(html, part)!
    expect(html).toContain('width="120" height="60"')
    expect(await (await ask('/visit')).text()).not.toContain('/picture/')
    const got = await ask(address, { cookie })
    expect([got.status, got.headers.get('content-type'), got.headers.get('cache-control')]).toEqual([
      200,
      'image/png',
      'private, no-cache',
    ])
    expect(Buffer.from(await got.arrayBuffer()).equals(bytes)).toBe(true)
    expect((await ask(address, { cookie, 'if-none-match': got.headers.get('etag')! })).status).toBe(304)
    const head = await fetch(application.url + address, { method: 'HEAD', headers: { cookie } })
    expect([head.status, head.headers.get('content-length'), await head.text()]).toEqual([200, `${bytes.length}`, ''])
    expect((await fetch(application.url + address, { method: 'HEAD' })).status).toBe(404)
    expect((await fetch(`${application.url}/health`, { method: 'HEAD' })).status).toBe(200)
    // Refused and missing are the same, and neither is told to have been right before.
    for (const [path, headers] of [
      [address, {}],
      [address, { 'if-none-match': got.headers.get('etag')! }],
      [address, { cookie: await cookieOf(application.url, 'mako') }],
      [`${address.slice(0, -1)}x`, { cookie }],
      [`/picture/block/visit-how/${address.split('/').at(-1)}`, { cookie }],
      [`/picture/block/${part}`, { cookie }],
    ] as const) {
      const refused = await ask(path, headers)
      expect([path, refused.status]).toEqual([path, 404])
      expect((await refused.arrayBuffer()).byteLength).toBeLessThan(20_000)
      expect(refused.headers.get('etag')).toBeNull()
    }
    const staff = await signedIn(application.url, 'guda')
    expect((await staff(`/api/loft/pictures/${'0'.repeat(64)}-1x1.png`)).status).toBe(403)
    await keeper.close()
  })

  it('is decided as on its page: by the page’s parameters, and where the visitor came from', async () => {
    const keeper = await signedIn(application.url, 'ines')
    const keep = async (colour: string) => {
      const answer = await keeper('/api/loft/pictures', {
        method: 'POST',
        json: { bytes: (await png(colour)).toString('base64') },
      })
      expect(answer.status).toBe(201)
      return ((await answer.json()) as { name: string }).name
    }
    const gates = {
      'by-poster': { query: { name: 'from', in: ['poster'] } },
      'by-friend': { referrer: { in: ['friend.example'] } },
    }
    for (const [id, open] of Object.entries(gates)) {
      const body = { file: await keep(id === 'by-poster' ? '#550000' : '#660000'), alt: id }
      const made = await keeper('/api/loft/things/block', {
        method: 'POST',
        json: { id, kind: 'picture', in: { page: 'ferry' }, body },
      })
      expect(made.status).toBeLessThan(300)
      const gate = { id: `only-${id}`, on: { block: id }, open }
      const said = await keeper(`/api/loft/entries/gate/only-${id}`, {
        method: 'PUT',
        json: { body: gate, expects: null },
      })
      expect([id, said.status, said.ok ? '' : await said.text()]).toEqual([id, 200, ''])
    }
    const { edition } = (await (await keeper('/api/loft/start')).json()) as { edition: number }
    const published = await keeper('/api/loft/publish', { method: 'POST', json: { note: '', expects: edition } })
    expect(published.status).toBe(200)
    await expect
      .poll(async () => pictureIn(await (await ask('/visit/ferry?from=poster')).text(), 'by-poster'))
      .toMatch(/\?from=poster$/)

    const plain = await (await ask('/visit/ferry')).text()
    expect(plain).not.toMatch(/picture\/block\/by-/)
    const poster = pictureIn(await (await ask('/visit/ferry?from=poster&x=1')).text(), 'by-poster')!
    expect((await ask(poster)).status).toBe(200)
    expect((await ask(poster.split('?')[0]!)).status).toBe(404)
    const friend = pictureIn(
      await (await ask('/visit/ferry', { referer: 'https://friend.example/a' })).text(),
      'by-friend',
    )!
    // A browser names the page it stands in.
    expect((await ask(friend, { referer: `${application.url}/visit/ferry` })).status).toBe(200)
    expect((await ask(friend.split('?')[0]!, { referer: `${application.url}/visit/ferry` })).status).toBe(404)
  })
})
