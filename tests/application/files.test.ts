/** Files people fetch, from the first byte that comes in to the last that goes out, over HTTP and in a browser. */
import { writeFileSync } from 'node:fs'
import { request } from 'node:http'
import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readFileName } from '../../core/files/stored-file'
import { activity } from '../../server/db/activity-table'
import { pathOf } from '../../server/services/files/file-folder'
import { cookieOf, signedIn, startApplication } from '../support/application'
import type { Application } from '../support/application'
import { changesIn } from '../support/at-site'
import { launchBrowser, newPageOf } from '../support/browser'
import { comeIn } from '../support/come-in'
import { rawRequest } from '../support/raw-request'

type As = Awaited<ReturnType<typeof signedIn>>
let application: Application
let ines: As
let edition = 1
beforeAll(async () => {
  application = await startApplication()
  ines = await signedIn(application.url, 'ines')
})
afterAll(() => application?.stop())

const ask = (path: string, headers: Record<string, string> = {}) =>
  fetch(application.url + path, { headers: { accept: 'application/json', ...headers }, redirect: 'manual' })
const problemOf = async (answer: Response) => (await answer.json()) as Record<string, unknown>
const publish = async () => {
  const done = await ines('/api/loft/publish', { method: 'POST', json: { note: '', expects: edition } })
  expect(done.status).toBe(200)
  edition++
}
const begin = (name: string, size: number, as = ines) =>
  as('/api/loft/uploads', { method: 'POST', json: { name, size } })
const send = (id: string, from: number, body: Buffer, as = ines) =>
  as(`/api/loft/uploads/${id}`, {
    method: 'PATCH',
    headers: { 'upload-offset': String(from), 'content-type': 'application/octet-stream' },
    body: new Uint8Array(body),
  })
async function keep(name: string, bytes: Buffer): Promise<{ file: string; fileName: string }> {
  const { id } = (await (await begin(name, bytes.length)).json()) as { id: string }
  const { file, fileName } = (await (await send(id, 0, bytes)).json()) as { file: string; fileName: string }
  return { file, fileName }
}
const words = (bytes: number) => Buffer.from('0123456789'.repeat(bytes / 10))

describe('taking a file in', () => {
  it('goes on where it broke off, and is kept once however often it comes', async () => {
    const bytes = words(600_000)
    const begun = await begin('counts.txt', bytes.length)
    expect(begun.status).toBe(201)
    const { id } = (await begun.json()) as { id: string }
    await brokenOff(id, bytes.subarray(0, 200_000), bytes.length)
    const at = await expect
      .poll(async () => {
        const told = (await (await ines(`/api/loft/uploads/${id}`)).json()) as { received: number }
        return told.received
      })
      .toBe(200_000)
      .then(() => 200_000)
    const wrong = await send(id, 0, bytes)
    expect([wrong.status, await problemOf(wrong)]).toMatchObject([
      409,
      { reason: 'upload-elsewhere', received: 200_000 },
    ])
    const whole = (await (await send(id, at, bytes.subarray(at))).json()) as { file: string }
    expect(whole.file).toMatch(/^[0-9a-f]{64}-600000\.txt$/)
    expect((await ines(`/api/loft/uploads/${id}`)).status).toBe(404)
    expect((await keep('the same.txt', bytes)).file).toBe(whole.file)
  })

  /** The line breaks once so much was sent. */
  const brokenOff = async (id: string, part: Buffer, size: number) => {
    const { hostname, port } = new URL(application.url)
    const headers = {
      cookie: await cookieOf(application.url, 'ines'),
      'upload-offset': '0',
      'content-length': String(size),
    }
    await new Promise<void>(resolve => {
      const line = request({ hostname, port, method: 'PATCH', path: `/api/loft/uploads/${id}`, headers })
      line.on('error', () => {})
      line.on('close', resolve)
      line.write(part, () => setTimeout(() => line.destroy(), 300))
    })
  }

  it('says what cannot be kept before anything is sent, or once it is whole, and leaves nothing lying', async () => {
    const large = await begin('loom.mp4', 5_000_000_000)
    expect([large.status, await problemOf(large)]).toMatchObject([
      413,
      { reason: 'file-too-large', most: 500, at: '/size' },
    ])
    const unknown = await begin('setup.exe', 10)
    expect([unknown.status, await problemOf(unknown)]).toMatchObject([
      400,
      { reason: 'file-type-unknown', at: '/name' },
    ])
    const odd = await begin(`${'x\r\n../'.repeat(800)}Cowl "für" Élodie.txt`, 10)
    expect([odd.status, await odd.json()]).toMatchObject([201, { fileName: 'Cowl -für- Élodie.txt' }])

    const { id } = (await (await begin('cowl.pdf', 20)).json()) as { id: string }
    expect((await send(id, 0, words(30))).status).toBe(400)
    const named = await send(id, 0, words(20))
    expect([named.status, await problemOf(named)]).toMatchObject([400, { reason: 'file-not-as-named' }])
    expect((await problemOf(await send(id, 0, words(20)))).reason).toBe('no-such-upload')
    const binary = (await (await begin('list.csv', 4)).json()) as { id: string }
    expect((await problemOf(await send(binary.id, 0, Buffer.from([0, 255, 254, 0])))).reason).toBe('file-not-as-named')
  })

  it('is for whoever may give downloads a file, each their own', async () => {
    const dace = await signedIn(application.url, 'dace')
    expect((await begin('a.txt', 10, dace)).status).toBe(403)
    const { id } = (await (await begin('a.txt', 10)).json()) as { id: string }
    const tomas = await signedIn(application.url, 'tomas')
    expect((await send(id, 0, words(10), tomas)).status).toBe(404)
    expect((await tomas(`/api/loft/uploads/${id}`, { method: 'DELETE' })).status).toBe(404)
    expect((await ines(`/api/loft/uploads/${id}`, { method: 'DELETE' })).status).toBe(204)
    const twice = (await (await begin('twice.txt', 400_000)).json()) as { id: string }
    const both = await Promise.all([send(twice.id, 0, words(400_000)), send(twice.id, 0, words(400_000))])
    expect(both.map(one => one.status).sort()).not.toEqual([200, 200])
    expect(both.some(one => one.status === 200)).toBe(true)
  })

  it('names nothing that is not kept, and nothing without a name', async () => {
    const change = (json: object) => ines('/api/loft/things/download/trade-list', { method: 'PUT', json })
    const missing = await change({ file: `${'0'.repeat(64)}-10.pdf`, fileName: 'a.pdf' })
    expect([missing.status, await problemOf(missing)]).toMatchObject([400, { reason: 'unknown-file', at: '/file' }])
    expect((await change({ fileName: null })).status).toBe(400)
    expect((await change({ file: '../../etc/passwd', fileName: 'a.pdf' })).status).toBe(400)
  })
})

describe('fetching a file', () => {
  const linkOf = async (who: string, download: string) => {
    const cookie = await cookieOf(application.url, who)
    const answer = await ask(`/fetch/${download}`, { cookie })
    return { cookie, answer, link: answer.headers.get('location')! }
  }

  it('is by a link of one’s own, which is good for nobody else, and not for long', async () => {
    const { cookie, link } = await linkOf('guda', 'harbour-cowl')
    const file = await ask(link, { cookie })
    expect([file.status, file.headers.get('content-type')]).toEqual([200, 'application/pdf'])
    expect(file.headers.get('content-disposition')).toBe('attachment; filename="Harbour cowl.pdf"')
    expect(file.headers.get('cache-control')).toBe('private, no-cache')
    expect(
      Buffer.from(await file.arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-')

    const passedOn = [await ask(link), await ask(link, { cookie: await cookieOf(application.url, 'mako') })]
    for (const one of passedOn)
      expect([one.status, (await problemOf(one)).type]).toEqual([403, 'urn:bravik:problem:link-not-yours'])
    expect((await ask(link.replace('harbour-cowl', 'trade-list'), { cookie })).status).toBe(403)
    // Another session of the same person is another browser.
    expect((await ask(link, { cookie: await cookieOf(application.url, 'guda') })).status).toBe(403)
    const later = await application.another({ BRAVIK_CLOCK_OFFSET_MS: String(16 * 60_000) })
    const late = await fetch(later + link, { headers: { cookie, accept: 'application/json' } })
    expect([late.status, (await problemOf(late)).type]).toEqual([410, 'urn:bravik:problem:link-expired'])
  })

  it('is not for whom the download is not: missing and hidden are the same, found is told', async () => {
    const [hidden, missing] = [await ask('/fetch/trade-list'), await ask('/fetch/no-such-thing')]
    expect([hidden.status, missing.status]).toEqual([404, 404])
    expect(await hidden.text()).toBe(await missing.text())
    const found = await ask('/fetch/harbour-cowl')
    expect([found.status, await problemOf(found)]).toMatchObject([401, { reason: 'file-after-sign-in' }])
    const { answer } = await linkOf('pia', 'harbour-cowl')
    expect([answer.status, await problemOf(answer)]).toMatchObject([403, { reason: 'file-not-yours' }])
    const page = await ask('/fetch/harbour-cowl', { accept: 'text/html' })
    expect(await page.text()).toContain('is not for everybody')
  })

  it('goes on in ranges, and is not sent again to whom has it', async () => {
    const { cookie, link } = await linkOf('guda', 'harbour-cowl')
    const head = await rawRequest(application.url, link, { method: 'HEAD', headers: { cookie } })
    const [size, etag] = [Number(head.headers['content-length']), String(head.headers.etag)]
    expect([head.status, head.headers['accept-ranges'], size > 1000]).toEqual([200, 'bytes', true])
    const whole = Buffer.from(await (await ask(link, { cookie })).arrayBuffer())
    const parts = [
      await ask(link, { cookie, range: 'bytes=0-99' }),
      await ask(link, { cookie, range: 'bytes=100-', 'if-range': etag }),
    ]
    expect(parts.map(one => one.status)).toEqual([206, 206])
    expect(parts[1]!.headers.get('content-range')).toBe(`bytes 100-${size - 1}/${size}`)
    const joined = Buffer.concat(await Promise.all(parts.map(async one => Buffer.from(await one.arrayBuffer()))))
    expect(joined.equals(whole)).toBe(true)
    const past = await ask(link, { cookie, range: `bytes=${size}-` })
    expect([past.status, past.headers.get('content-range')]).toEqual([416, `bytes */${size}`])
    expect(past.headers.get('content-disposition')).toBeNull()
    expect((await ask(link, { cookie, range: 'bytes=5-9', 'if-range': '"another"' })).status).toBe(200)
    expect((await rawRequest(application.url, link, { headers: { cookie, 'if-none-match': etag } })).status).toBe(304)
  })

  it('gives another file at the same address once it is replaced, and nothing once it is for others', async () => {
    const { cookie, link } = await linkOf('guda', 'harbour-cowl')
    const before = (await ask(link, { cookie })).headers.get('etag')
    const { file, fileName } = await keep('Cowl, mended ☂.csv', Buffer.from('row,count\n31,right\n'))
    const change = { file, fileName, path: '/files/harbour-cowl' }
    expect((await ines('/api/loft/things/download/harbour-cowl', { method: 'PUT', json: change })).status).toBe(200)
    expect((await ask(link, { cookie })).headers.get('etag')).toBe(before)
    await publish()
    const now = await ask(link, { cookie })
    expect([now.headers.get('etag') === before, await now.text()]).toEqual([false, 'row,count\n31,right\n'])
    expect(now.headers.get('content-disposition')).toContain(`filename*=UTF-8''Cowl%2C%20mended%20%E2%98%82.csv`)
    const shut = { id: 'cowl-shut', on: { download: 'harbour-cowl' }, open: { nobody: true }, find: { nobody: true } }
    await ines('/api/loft/entries/gate/cowl-shut', { method: 'PUT', json: { body: shut, expects: null } })
    await publish()
    expect((await ask(link, { cookie })).status).toBe(404)
  })

  it('counts a file once a day against what a level allows, and each fetching in Activity', async () => {
    const gated = { ...(await keep('three.txt', words(30))), id: 'gated', title: 'Gated' }
    await ines('/api/loft/things/download', { method: 'POST', json: gated })
    const own = { id: 'gated', on: { download: 'gated' }, open: { signedIn: true } }
    await ines('/api/loft/entries/gate/gated', { method: 'PUT', json: { body: own, expects: null } })
    await publish()
    const cookie = await cookieOf(application.url, 'guda')
    const early = await ask('/fetch/gated', { cookie })
    await ines('/api/loft/settings/files', {
      method: 'PUT',
      json: { perDay: { guest: 1, signedIn: 1, levels: { guild: 1 } } },
    })
    const twoFiles = [await keep('one.txt', words(10)), await keep('two.txt', words(20))]
    for (const [i, one] of twoFiles.entries())
      await ines('/api/loft/things/download', { method: 'POST', json: { id: `open-${i}`, title: `Open ${i}`, ...one } })
    await publish()
    const fetchOf = (id: string, headers: Record<string, string>) => ask(`/fetch/${id}`, headers)
    expect((await fetchOf('open-0', { cookie })).status).toBe(302)
    expect((await fetchOf('open-0', { cookie })).status).toBe(302)
    const enough = await fetchOf('open-1', { cookie })
    expect([enough.status, await problemOf(enough)]).toMatchObject([429, { reason: 'fetched-enough', most: 1 }])
    // A head is told of the file, counts nothing, and gives no link: neither before the limit nor past it.
    for (const id of ['open-0', 'open-1']) {
      const head = await rawRequest(application.url, `/fetch/${id}`, { method: 'HEAD', headers: { cookie } })
      expect([head.status, head.headers.location, head.headers['content-length']]).toEqual([
        200,
        undefined,
        id === 'open-0' ? '10' : '20',
      ])
    }
    // A link that was given before there was a limit is counted where it leads.
    const late = await ask(early.headers.get('location')!, { cookie })
    expect([early.status, late.status, await problemOf(late)]).toMatchObject([302, 429, { reason: 'fetched-enough' }])
    const byGuests = [await fetchOf('open-0', {}), await fetchOf('open-1', {})]
    expect(byGuests.map(one => one.status)).toEqual([200, 429])
    expect(byGuests[0]!.headers.get('cache-control')).toBe('private, no-cache')
    await ines('/api/loft/settings/files', { method: 'PUT', json: { perDay: {} } })
    const open = await fetchOf('open-1', {})
    expect([open.status, open.headers.get('cache-control')]).toEqual([200, 'public, max-age=0, must-revalidate'])
    const noted = async () =>
      (await application.database.db.select().from(activity)).filter(
        one => one.kind === 'download' && one.subjectId?.startsWith('open-'),
      )
    await expect.poll(async () => (await noted()).length).toBe(2)
  })
})

describe('a file that is damaged', () => {
  it('is told by the server and in the console to whoever looks after files, until it is brought again', async () => {
    const bytes = Buffer.from('loom,since\n3,1911\n')
    const { file, fileName } = await keep('Looms.csv', bytes)
    await ines('/api/loft/things/download', { method: 'POST', json: { id: 'looms', title: 'Looms', file, fileName } })
    await publish()
    writeFileSync(pathOf(readFileName(file)!), 'loom,since\n3,1912\n')
    const told = async () => ((await (await ask('/ready')).json()) as { damagedFiles: number }).damagedFiles
    const start = async (as: As) => ((await (await as('/api/loft/start')).json()) as { damaged: unknown[] }).damaged
    const before = await told()
    expect((await ines('/api/loft/files/read-through', { method: 'POST' })).status).toBe(204)
    await expect.poll(told, { timeout: 20_000 }).toBe(before + 1)
    expect(await start(ines)).toEqual([{ id: 'looms', file, damage: 'changed' }])
    expect(await start(await signedIn(application.url, 'dace'))).toEqual([])
    expect((await keep('Looms.csv', bytes)).file).toBe(file)
    expect([await told(), await start(ines), await (await ask('/fetch/looms')).text()]).toEqual([
      before,
      [],
      bytes.toString(),
    ])
  })
})

describe('files in a browser', () => {
  let browser: Browser
  beforeAll(async () => {
    browser = await launchBrowser()
  })
  afterAll(() => browser?.close())

  it('are dropped into a folder by staff, fetched by a member, and the link is of no use to others', async () => {
    const keeper = await newPageOf(browser)
    await comeIn(keeper, application.url, 'ines', '/loft/site?thing=folder:patterns')
    await keeper.getByLabel(/Choose files/).setInputFiles([
      { name: 'Watch cap.csv', mimeType: 'text/csv', buffer: Buffer.from('round,stitches\n1,88\n') },
      { name: 'cap.pdf', mimeType: 'application/pdf', buffer: Buffer.from('not a pdf') },
    ])
    await keeper.getByText('“cap.pdf” is not what its name says').waitFor()
    await keeper.getByRole('button', { name: 'Watch cap', exact: true }).first().waitFor()
    await changesIn(keeper, 1)
    await keeper.getByRole('button', { name: /^1 change,/ }).click()
    const dialog = keeper.getByRole('dialog')
    await dialog.getByRole('button', { name: /^Publish edition/ }).click()
    await dialog.waitFor({ state: 'detached' })

    const member = await newPageOf(browser)
    await comeIn(member, application.url, 'guda', '/techniques/gansey')
    const files = member.locator('section.files')
    await files.getByRole('heading', { name: 'To knit from' }).waitFor()
    const [download] = await Promise.all([
      member.waitForEvent('download'),
      files.getByRole('link', { name: 'Fetch the file Watch cap' }).click(),
    ])
    expect(download.suggestedFilename()).toBe('Watch cap.csv')
    const stranger = await newPageOf(browser)
    const answer = await stranger.goto(download.url())
    expect(answer!.status()).toBe(403)
    await stranger.getByText('This link was made for somebody else').first().waitFor()
    await keeper.context().close()
    await member.context().close()
    await stranger.context().close()
  })
})
