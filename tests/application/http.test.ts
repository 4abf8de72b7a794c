import { createHmac } from 'node:crypto'
import { request } from 'node:http'
import { connect } from 'node:net'
import { afterAll, beforeAll, describe, expect, it, onTestFinished } from 'vitest'
import { cookieOf, signedIn, startApplication, testSecret } from '../support/application'
import type { Application } from '../support/application'

let application: Application
let ines: Awaited<ReturnType<typeof signedIn>>
beforeAll(async () => {
  application = await startApplication('demo', { BRAVIK_COUNTRY_HEADER: 'x-country' })
  ines = await signedIn(application.url, 'ines')
})
afterAll(() => application.stop())

const get = (path: string, headers: Record<string, string> = {}) =>
  fetch(application.url + path, { redirect: 'manual', headers })
const changes = async () => ((await (await ines('/api/loft/start')).json()) as { changes: unknown[] }).changes
const gate = { id: 'visit-gate', on: { page: 'visit' }, open: { signedIn: true } }

async function problemOf(answer: Response): Promise<string> {
  expect(answer.headers.get('content-type')).toBe('application/problem+json')
  const problem = (await answer.json()) as { type: string; status: number; title: string }
  expect(problem.status).toBe(answer.status)
  expect(problem.title.length).toBeGreaterThan(5)
  return problem.type.split(':').at(-1)!
}

/** What came back on a connection of our own until it ended, and after how long; milliseconds. */
function byteByByte(path: string, head: string, everyMs: number): Promise<{ answer: string; ms: number }> {
  const { hostname, port } = new URL(application.url)
  return new Promise(resolve => {
    const start = performance.now()
    let answer = ''
    const line = connect(Number(port), hostname, () => line.write(`POST ${path} HTTP/1.1\r\nhost: x\r\n${head}`))
    const timer = setInterval(() => line.write('x'), everyMs)
    line.on('data', data => (answer += data.toString()))
    line.on('error', () => {})
    line.on('close', () => {
      clearInterval(timer)
      resolve({ answer, ms: performance.now() - start })
    })
  })
}

describe('what comes slowly', () => {
  it('is ended with a word, whoever asks and whatever the route, and what is merely slow goes on', async () => {
    const cookie = await cookieOf(application.url, 'ines')
    const body = 'content-type: application/json\r\ncontent-length: 9000\r\n'
    const crawling = [
      byteByByte('/api/session', `${body}\r\n`, 500),
      byteByByte('/api/loft/entries/gate/x', `cookie: ${cookie}\r\n${body}\r\n`, 500),
      byteByByte('/visit', 'transfer-encoding: chunked\r\n\r\n', 500),
    ]
    // Six kilobytes in each window are enough.
    const slow = rawSlowly('/api/session', 20, 700)
    for (const { answer, ms } of await Promise.all(crawling)) {
      expect(ms).toBeLessThan(20_000)
      expect(answer).toMatch(/^HTTP\/1\.1 (408|400|405) /)
    }
    expect((await slow).status).toBe(400)
  }, 40_000)

  const rawSlowly = (path: string, pieces: number, everyMs: number): Promise<{ status: number }> => {
    const { hostname, port } = new URL(application.url)
    return new Promise((resolve, reject) => {
      const asked = request(
        { hostname, port, path, method: 'POST', headers: { 'content-type': 'application/json' } },
        answer => resolve({ status: answer.statusCode ?? 0 }),
      )
      asked.on('error', reject)
      const piece = (left: number) => {
        if (!left) return void asked.end()
        asked.write(' '.repeat(600))
        setTimeout(() => piece(left - 1), everyMs)
      }
      piece(pieces)
    })
  }
})

describe('a long query', () => {
  it('makes no header that proxies do not take', async () => {
    const long = `?q=${'%22'.repeat(1700)}`
    const ends: [string, number, string | null][] = [
      [`/loft${long}`, 303, '/sign-in?back=%2Floft'],
      [`/techniques/colour/steeks${long}`, 303, '/join?back=%2Ftechniques%2Fcolour%2Fsteeks'],
      [`/visit/${long}`, 400, null],
      ['/visit/?day=mon', 308, '/visit?day=mon'],
    ]
    for (const [path, status, location] of ends) {
      const answer = await get(path)
      expect([path, answer.status, answer.headers.get('location')]).toEqual([path, status, location])
    }
    const wrong = await fetch(`${application.url}/sign-in`, {
      method: 'POST',
      redirect: 'manual',
      headers: { origin: application.url, 'content-type': 'application/x-www-form-urlencoded' },
      body: new URLSearchParams({ email: 'x@y.example', password: 'wrong', back: `/visit${long}` }).toString(),
    })
    expect([wrong.status, (wrong.headers.get('location') ?? '').length < 2000]).toEqual([303, true])
  })
})

describe('refusals of pages', () => {
  it('answer by what the gate says, for guests and for members', async () => {
    const stella = await signedIn(application.url, 'stella@gullhaven.example')
    expect((await get('/trade')).status).toBe(404)
    expect((await stella('/trade')).status).toBe(200)
    const notice = await get('/techniques/gansey')
    expect([notice.status, notice.headers.get('www-authenticate')]).toEqual([401, 'Session realm="Wexlow Mill"'])
    expect(await notice.text()).toContain('The gansey course is for the Guild')
    expect((await stella('/techniques/gansey')).status).toBe(403)
    const teaser = await get('/techniques/mending')
    expect(teaser.status).toBe(200)
    expect(await teaser.text()).toContain('A darn that is knitted')
    const away = await get('/techniques/colour/steeks')
    expect([away.status, away.headers.get('location')]).toEqual([303, '/join?back=%2Ftechniques%2Fcolour%2Fsteeks'])
    expect((await get('/techniques/mending?print=1')).status).toBe(401)
    expect((await stella('/join')).headers.get('location')).toBe('/account?back=%2Fjoin')
  })

  it('do not tell what is missing from what is hidden', async () => {
    const [hidden, missing] = await Promise.all([get('/trade'), get('/trads')])
    const same = async (answer: Response) => [
      answer.status,
      [...answer.headers].filter(([name]) => name !== 'date').join(),
      (await answer.text()).replaceAll(/trad[es]/g, ''),
    ]
    expect(await same(hidden)).toEqual(await same(missing))
  })

  it('follow the country a trusted header names, and refuse when nobody says', async () => {
    const stella = await signedIn(application.url, 'stella@gullhaven.example')
    expect((await stella('/trade/export')).status).toBe(403)
    expect((await stella('/trade/export', { headers: { 'x-country': 'GB' } })).status).toBe(200)
    expect((await stella('/trade/export', { headers: { 'x-country': 'IE' } })).status).toBe(403)
  })
})

describe('caching', () => {
  it('is public for guests, apart by what the page turned on, and private for everybody else', async () => {
    const forGuests = await get('/')
    expect(forGuests.headers.get('cache-control')).toBe('public, max-age=0, must-revalidate')
    expect(forGuests.headers.get('vary')).toMatch(/^Cookie, User-Agent/)
    const again = await get('/', { 'if-none-match': forGuests.headers.get('etag')! })
    expect([again.status, await again.text()]).toEqual([304, ''])
    const pia = await signedIn(application.url, 'pia')
    expect((await pia('/')).headers.get('cache-control')).toBe('private, no-cache')
    const empty = await startApplication('empty')
    onTestFinished(() => empty.stop())
    const open = await fetch(empty.url)
    expect([open.headers.get('cache-control'), open.headers.get('vary')]).toEqual([
      'public, max-age=0, must-revalidate',
      null,
    ])
  })

  it('sends no script to the public site', async () => {
    expect(await (await get('/')).text()).not.toMatch(/<script(?! type="application\/ld\+json")|modulepreload/)
  })
})

describe('sessions', () => {
  it('serve scripts as the form serves people', async () => {
    const pia = await signedIn(application.url, 'pia')
    expect(await (await pia('/api/session')).json()).toEqual({ person: { id: 'p-pia', name: 'Pia Lain' } })
    expect((await pia('/api/session', { method: 'DELETE' })).status).toBe(204)
    expect(await (await pia('/api/session')).json()).toEqual({ person: null })
    const form = await fetch(`${application.url}/sign-in`, {
      method: 'POST',
      redirect: 'manual',
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
      body: new URLSearchParams({ email: 'STELLA@gullhaven.example', password: 'wexlow-demo', back: '/trade/prices' }),
    })
    expect([form.status, form.headers.get('location')]).toEqual([303, '/trade/prices'])
    expect(form.headers.getSetCookie()[0]).toMatch(/HttpOnly; SameSite=Lax/)
    const wrong = await fetch(`${application.url}/sign-in`, {
      method: 'POST',
      redirect: 'manual',
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
      body: new URLSearchParams({ email: 'stella@gullhaven.example', password: 'no', back: '//evil.example' }),
    })
    expect(wrong.headers.get('location')).toBe('/sign-in?problem=wrong-sign-in&back=%2F%2Fevil.example')
  })

  it('never lead off the site', async () => {
    for (const back of ['//evil.example', 'https://evil.example', '/\\evil.example']) {
      const form = await fetch(`${application.url}/sign-in`, {
        method: 'POST',
        redirect: 'manual',
        headers: { 'content-type': 'application/x-www-form-urlencoded' },
        body: new URLSearchParams({ email: 'fenn@wexlow.example', password: 'wexlow-demo', back }),
      })
      expect(form.headers.get('location')).toBe('/account')
    }
  })

  it('stop guessing from one place', async () => {
    const guess = () =>
      fetch(`${application.url}/api/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: '{"email":"isla@wexlow.example","password":"x"}',
      })
    const statuses: number[] = []
    for (let i = 0; i < 11; i++) statuses.push((await guess()).status)
    expect([...new Set(statuses.slice(0, 10)), statuses[10]]).toEqual([401, 429])
  })
})

describe('bad input', () => {
  it.each<[string, number, string, () => Promise<Response>]>([
    [
      'a body that is not JSON',
      400,
      'not-json',
      () =>
        ines('/api/loft/entries/gate/visit-gate', {
          method: 'PUT',
          body: '{"body":',
          headers: { 'content-type': 'application/json' },
        }),
    ],
    [
      'a body over 1 MB',
      413,
      'too-large',
      () =>
        ines('/api/loft/entries/gate/visit-gate', {
          method: 'PUT',
          json: { body: { ...gate, note: 'x'.repeat(1_100_000) }, expects: null },
        }),
    ],
    [
      'another type than JSON',
      415,
      'wrong-type',
      () =>
        ines('/api/loft/publish', {
          method: 'POST',
          body: 'note=x',
          headers: { 'content-type': 'application/x-www-form-urlencoded' },
        }),
    ],
    [
      'a gate that states nothing',
      400,
      'bad-input',
      () =>
        ines('/api/loft/entries/gate/visit-gate', {
          method: 'PUT',
          json: { body: { id: 'visit-gate', on: { page: 'visit' } }, expects: null },
        }),
    ],
    [
      'an unknown level',
      422,
      'rules-broken',
      () =>
        ines('/api/loft/entries/gate/visit-gate', {
          method: 'PUT',
          json: { body: { ...gate, open: { level: { in: ['elder'] } } }, expects: null },
        }),
    ],
    [
      'an unknown kind of entry',
      404,
      'not-found',
      () => ines('/api/loft/entries/wish/visit-gate', { method: 'PUT', json: { body: gate, expects: null } }),
    ],
    [
      'a version that was never there',
      409,
      'changed-meanwhile',
      () =>
        ines('/api/loft/entries/gate/visit-gate', {
          method: 'PUT',
          json: { body: gate, expects: { id: 1, revision: 1 } },
        }),
    ],
    [
      'a request from another origin',
      403,
      'other-origin',
      () =>
        ines('/api/loft/publish', {
          method: 'POST',
          json: { note: '', expects: 1 },
          headers: { origin: 'https://evil.example' },
        }),
    ],
    [
      'a request another site made a browser send',
      403,
      'other-origin',
      () =>
        ines('/api/loft/publish', {
          method: 'POST',
          json: { note: '', expects: 1 },
          headers: { 'sec-fetch-site': 'cross-site' },
        }),
    ],
    [
      'an empty draft',
      409,
      'nothing-to-publish',
      () => ines('/api/loft/publish', { method: 'POST', json: { note: '', expects: 1 } }),
    ],
    [
      'a page address taken twice',
      409,
      'taken',
      () => ines('/api/loft/things/page', { method: 'POST', json: { id: 'trade-2', path: '/trade', title: 'Trade' } }),
    ],
    [
      'an address the application answers itself',
      400,
      'bad-input',
      () => ines('/api/loft/things/page', { method: 'POST', json: { id: 'x', path: '/loft/x', title: 'X' } }),
    ],
    [
      'a block in two places',
      400,
      'bad-input',
      () =>
        ines('/api/loft/things/block', {
          method: 'POST',
          json: { id: 'x', kind: 'text', in: { page: 'visit', frame: 'footer' }, body: { markdown: '' } },
        }),
    ],
  ])('%s gets its clear error and leaves the draft as it was', async (_, status, code, send) => {
    const answer = await send()
    expect(answer.status).toBe(status)
    expect(await problemOf(answer)).toBe(code)
    expect(await changes()).toEqual([])
  })
})

describe('walking', () => {
  const sign = (pass: object) => {
    const body = Buffer.from(JSON.stringify(pass)).toString('base64url')
    return `${body}.${createHmac('sha256', testSecret).update(`walk:${body}`).digest('base64url')}`
  }
  const ask = async () => {
    const { base } = (await (
      await ines('/api/loft/walk', {
        method: 'POST',
        json: { tier: 'Stockist', visitor: { person: { id: 'tier' }, roles: ['stockist'] }, draft: true },
      })
    ).json()) as { base: string }
    return base
  }

  it('shows staff the site as another kind of visitor, and nobody else anything', async () => {
    const base = await ask()
    const page = await ines(`${base}/trade`)
    expect(page.status).toBe(200)
    expect(await page.text()).toContain(`href="${base}/trade/prices"`)
    expect(page.headers.get('cache-control')).toBe('private, no-store')
    expect((await ines(`${base}/techniques/gansey`)).status).toBe(403)
    expect(await problemOf(await get(`${base}/trade`))).toBe('bad-token')
    const other = await signedIn(application.url, 'tomas')
    expect(await problemOf(await other(`${base}/trade`))).toBe('bad-token')
  })

  it('refuses a forged token and an expired one', async () => {
    const token = (await ask()).slice('/walk/'.length)
    const pass = JSON.parse(Buffer.from(token.split('.')[0]!, 'base64url').toString()) as { expires: number }
    const forged = `${Buffer.from(JSON.stringify({ ...pass, expires: pass.expires + 1e9 })).toString('base64url')}.${token.split('.')[1]}`
    expect(await problemOf(await ines(`/walk/${forged}/trade`))).toBe('bad-token')
    expect(await problemOf(await ines(`/walk/${sign({ ...pass, expires: Date.now() - 1 })}/trade`))).toBe(
      'token-expired',
    )
    expect((await ines(`/walk/${sign(pass)}/trade`)).status).toBe(200)
  })
})
