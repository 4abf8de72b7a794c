import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { cookieOf, signedIn, startApplication } from '../support/application'
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

const sent = async (path: string, cookie = '') => {
  const answer = await fetch(application.url + path, { headers: cookie ? { cookie } : {}, redirect: 'manual' })
  const { date: _, 'x-request-id': __, ...headers } = Object.fromEntries(answer.headers)
  return { status: answer.status, location: headers.location, html: await answer.text(), headers }
}
async function done(answer: Promise<Response>): Promise<Record<string, unknown>> {
  const { status, ok } = await answer
  const body = await (await answer).json().catch(() => ({}))
  if (!ok) throw new Error(`${status} ${JSON.stringify(body)}`)
  return body as Record<string, unknown>
}
interface Start {
  edition: number
  versions: { kind: string; key: string; id: number; revision: number; body: Record<string, unknown> }[]
}
const start = () => done(keeper('/api/loft/start')) as unknown as Promise<Start>
async function put(kind: string, key: string, change: (body: Record<string, unknown>) => object): Promise<void> {
  const found = (await start()).versions.find(one => one.kind === kind && one.key === key)
  const expects = found ? { id: found.id, revision: found.revision } : null
  await done(
    keeper(`/api/loft/entries/${kind}/${key}`, { method: 'PUT', json: { body: change(found?.body ?? {}), expects } }),
  )
}
const publish = async () =>
  done(keeper('/api/loft/publish', { method: 'POST', json: { note: 'Tried', expects: (await start()).edition } }))

describe('a role', () => {
  it('is copied with all that names it; published, its holder gets what the original gets', async () => {
    const page = await newPageOf(browser)
    await comeIn(page, application.url, 'ines', '/loft/who?at=role:stockist')
    const copy = page.getByRole('region', { name: 'Copy' })
    await copy.getByText(/reaches and pays as Stockist does/).waitFor()
    await copy.getByLabel('Name of the copy of Stockist').fill('Wholesale')
    await copy.getByRole('button', { name: 'Copy' }).click()
    await page.getByLabel('Name of Wholesale').waitFor()
    await page.getByText('It can be given once the draft is published.').waitFor()
    // Nobody else is moved by it.
    await page.getByRole('button', { name: /^Publish edition/ }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByRole('button', { name: /^Publish edition \d+$/ }).click()
    await dialog.waitFor({ state: 'detached' })

    const paths = ['/trade', '/trade/prices', '/shop/goods/fell-dk', '/techniques', '/join']
    const [pia, stella] = [
      await cookieOf(application.url, 'pia'),
      await cookieOf(application.url, 'stella@gullhaven.example'),
    ]
    expect((await sent('/trade', pia)).status).toBe(404)
    await page.getByLabel('Give Wholesale to somebody').fill('pia')
    await page.getByRole('button', { name: /^Pia Lain/ }).click()
    await page.getByText('Pia Lain has it now.').waitFor()
    const told = async (cookie: string) =>
      Promise.all(paths.map(async path => [path, (await sent(path, cookie)).status]))
    expect(await told(pia)).toEqual(await told(stella))
    expect((await sent('/trade', pia)).status).toBe(200)
    // Taken out again: what becomes of each is told, and she would be left without it.
    await page.getByRole('button', { name: 'Remove Wholesale' }).click()
    await page
      .getByRole('region', { name: 'Take it out' })
      .getByText(/gate Trade desk/)
      .waitFor()
    await page.getByRole('button', { name: 'Take Wholesale out' }).click()
    await page
      .getByText(/held by|hold it|Held by/i)
      .first()
      .waitFor()
  })
})

describe('a part of the frame', () => {
  it('stands around one category alone: its bytes are nowhere else', async () => {
    const mark = 'Wash it in rain water'
    await done(
      keeper('/api/loft/draft/steps', {
        method: 'POST',
        json: {
          steps: [
            {
              do: 'add',
              kind: 'block',
              thing: {
                id: 'wash-it',
                kind: 'text',
                title: '',
                body: { markdown: mark },
                in: { frame: 'footer', around: [{ category: 'yarn' }] },
              },
            },
          ],
        },
      }),
    )
    await publish()
    const has = async (path: string) => (await sent(path)).html.includes(mark)
    const found = await Promise.all(
      ['/shop/yarn', '/shop/goods/fell-dk', '/shop/tools', '/', '/techniques', '/sign-in', '/basket', '/no-such'].map(
        async path => [path, await has(path)],
      ),
    )
    expect(Object.fromEntries(found)).toEqual({
      '/shop/yarn': true,
      '/shop/goods/fell-dk': true,
      '/shop/tools': false,
      '/': false,
      '/techniques': false,
      '/sign-in': false,
      '/basket': false,
      '/no-such': false,
    })
  })
})

describe('a hidden page and a missing one', () => {
  const alike = (one: Awaited<ReturnType<typeof sent>>, path: string) => {
    const bare = (text: string) => text.replaceAll(encodeURIComponent(path), '').replaceAll(path, '')
    const { etag: _, ...headers } = one.headers
    return { ...one, html: bare(one.html), location: bare(one.location ?? ''), headers: bare(JSON.stringify(headers)) }
  }
  it.each([
    ['a redirect', { guest: { redirect: { to: '/join' } }, signedIn: { absent: true } }, 303],
    ['a notice', { notice: { text: 'Ask the mill.' } }, 401],
    ['a redirect to another host', { redirect: { to: 'https://book.wexlow.example/rooms' } }, 303],
  ] as const)('are alike in bytes under %s for the whole site', async (_, any, status) => {
    await put('settings', 'site', body => ({
      ...body,
      otherwise: { any },
      unknownAddress: 'asPage',
      leadsTo: ['book.wexlow.example'],
    }))
    await publish()
    const [hidden, missing] = [await sent('/trade'), await sent('/trode')]
    expect([hidden.status, missing.status]).toEqual([status, status])
    expect(alike(hidden, '/trade')).toEqual(alike(missing, '/trode'))
    // Once more, as it stands ready, and as somebody signed in.
    const mako = await cookieOf(application.url, 'mako')
    for (const cookie of ['', mako])
      expect(alike(await sent('/trade', cookie), '/trade')).toEqual(alike(await sent('/trode', cookie), '/trode'))
    if ('redirect' in any) expect(hidden.location).toBe('https://book.wexlow.example/rooms')
    // Signing in may lead there, which a browser must let a form do.
    expect((await sent('/sign-in')).headers['content-security-policy']).toContain("form-action 'self' https://book")
  })

  it('may not lead to a host that is taken off the list while something leads there', async () => {
    await expect(put('settings', 'site', ({ leadsTo: _, ...rest }) => rest)).rejects.toThrow(
      /book\.wexlow\.example|host/,
    )
  })
})
