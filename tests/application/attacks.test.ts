/** What strangers and narrowed staff must not be able to do, tried on the running application. */
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it, onTestFinished } from 'vitest'
import type { StaffRuleInput } from '../../core/staff/staff-rule'
import { firm, mailOut, person } from '../../server/db/schema'
import { serve, signedIn, startApplication } from '../support/application'
import type { Application } from '../support/application'
import { rawRequest } from '../support/raw-request'

let application: Application
let ines: Awaited<ReturnType<typeof signedIn>>
beforeAll(async () => {
  application = await startApplication('demo')
  ines = await signedIn(application.url, 'ines')
})
afterAll(() => application.stop())
const raw = (path: string, options = {}) => rawRequest(application.url, path, options)
const json = { 'content-type': 'application/json' }
const codeOf = async (answer: Response) =>
  answer.ok ? 'done' : String(((await answer.json()) as { type: string }).type.split(':').at(-1))
/** Lets Dace, of the front desk, do exactly this. */
const desk = async (...rules: Omit<StaffRuleInput, 'role'>[]) => {
  const answer = await ines('/api/loft/staff/front-desk', {
    method: 'PUT',
    json: { rules: rules.map(rule => ({ role: 'front-desk', ...rule })) },
  })
  if (!answer.ok) throw new Error(await answer.text())
  return signedIn(application.url, 'dace')
}

describe('a path that is not canonical', () => {
  it.each([
    ['/loft/../visit', 308, '/visit'],
    ['/loft/%2e%2e/visit', 308, '/visit'],
    ['/loft/.%2E/visit', 308, '/visit'],
    ['//visit', 308, '/visit'],
    ['//evil.example/..', 308, '/'],
    ['/visit/', 308, '/visit'],
    ['/./visit?x=1', 308, '/visit?x=1'],
    ['/%76isit', 308, '/visit'],
    ['/_nuxt/../visit', 308, '/visit'],
    ['/api/../visit', 308, '/visit'],
    ['/visit%2f', 400, undefined],
    ['/%5cvisit', 400, undefined],
    ['/%00', 400, undefined],
    ['/visit?x=%00', 400, undefined],
    ['/%c0%ae%c0%ae/visit', 400, undefined],
    ['/%', 400, undefined],
    ['http://evil.example/visit', 400, undefined],
  ])('%s is answered %i before anything else', async (path, status, to) => {
    const answer = await raw(path)
    expect([answer.status, answer.headers.location]).toEqual([status, to])
  })

  it('blanks no page for anybody, nor does a header that asks for an empty one', async () => {
    const before = await raw('/visit/ferry')
    for (const path of ['/loft/../visit/ferry', '/loft/%2e%2e/visit/ferry', '/LOFT/../visit/ferry']) await raw(path)
    await raw('/visit', { headers: { 'x-nuxt-no-ssr': '1' } })
    await raw('/visit/ferry', { headers: { 'x-nuxt-no-ssr': 'true' } })
    const after = await raw('/visit/ferry')
    expect([after.status, after.text]).toEqual([200, before.text])
    expect((await raw('/visit')).text).toContain('The boat, the path and the opening hours')
  })

  it('of the console written otherwise is not the console', async () => {
    for (const path of ['/LOFT', '/Loft/people']) {
      const answer = await raw(path)
      expect([answer.status, answer.text.includes('/_nuxt/')]).toEqual([404, false])
    }
  })
})

describe('what nobody should send', () => {
  const post = (path: string, body: string, headers: Record<string, string> = json) =>
    raw(path, { method: 'POST', body, headers })

  it.each<[string, number, () => Promise<{ status: number }>]>([
    ['U+0000 in a body', 400, () => post('/api/session', '{"email":"a\\u0000b","password":"x"}')],
    ['half a surrogate pair', 400, () => post('/api/session', '{"email":"\\ud800","password":"x"}')],
    [
      'U+0000 in a form',
      400,
      () => post('/sign-in', 'email=a%00b&password=x', { 'content-type': 'application/x-www-form-urlencoded' }),
    ],
    ['a body nested without end', 400, () => post('/api/session', '['.repeat(8000) + ']'.repeat(8000))],
    [
      'a rule nested without end',
      400,
      () =>
        ines('/api/loft/entries/gate/deep', {
          method: 'PUT',
          body: `{"expects":null,"body":${'{"not":'.repeat(50_000)}1${'}'.repeat(50_000)}}`,
          headers: json,
        }),
    ],
    [
      'more than 16 kB of a stranger',
      413,
      () => post('/api/session', JSON.stringify({ email: 'x'.repeat(17_000), password: 'x' })),
    ],
    ['more than 16 kB to the till', 413, () => post('/api/payments/notice', 'x'.repeat(17_000))],
    ['a method nobody knows', 405, () => raw('/api/session', { method: 'PATCH' })],
    ['a method a page does not know', 405, () => raw('/visit', { method: 'DELETE' })],
    ['a form where there is none', 405, () => post('/visit', 'x=1')],
    ['an address below /api that is none', 404, () => raw('/api/nothing')],
    ['a change without anything', 400, () => ines('/api/loft/people/p-pia', { method: 'PUT', json: {} })],
    [
      'a number no row has',
      404,
      () => ines('/api/loft/applications/99999999999', { method: 'POST', json: { accept: false } }),
    ],
    [
      'a membership no row has',
      400,
      () => ines('/api/loft/people/p-pia/holdings', { method: 'DELETE', json: { membership: 3_000_000_000 } }),
    ],
    [
      'a position past all numbers',
      400,
      () => ines('/api/loft/products/tarn-lace/stock', { method: 'PUT', json: { stock: 1e300 } }),
    ],
  ])('%s is answered %i', async (_, status, work) => expect((await work()).status).toBe(status))

  it('is told which methods there are', async () => {
    const answer = await raw('/api/session', { method: 'PUT' })
    expect([answer.status, answer.headers.allow]).toEqual([405, 'DELETE, GET, HEAD, POST'])
  })

  it('is echoed at no length', async () => {
    const long = 'wool'.repeat(500)
    const answers = await Promise.all([
      ines('/api/loft/people/p-pia/holdings', { method: 'POST', json: { what: 'role', role: long } }),
      ines('/api/loft/people/p-pia', { method: 'PUT', json: { [long]: 1 } }),
      ines(`/api/loft/entries/${long}/x`, { method: 'PUT', json: { body: {}, expects: null } }),
      ines('/api/loft/entries/gate/visit-gate', {
        method: 'PUT',
        json: { body: { id: 'visit-gate', on: { page: long }, open: { level: { in: [long] } } }, expects: null },
      }),
      ines('/api/loft/mail/texts/reset', { method: 'PUT', json: { subject: `{${long}}`, plain: 'x', html: 'x' } }),
      ines(`/api/loft/people?q=${encodeURIComponent(JSON.stringify({ [long]: 1 }))}`),
    ])
    for (const answer of answers) {
      expect(answer.status).toBeGreaterThanOrEqual(400)
      expect(await answer.text()).not.toContain('wool'.repeat(51))
    }
  })

  it('a token signed here of another shape is no token', async () => {
    const { makeWalkToken } = await import('../../server/services/entrance/walk-token')
    const { readEnvironmentAnew } = await import('../../server/environment')
    process.env.BRAVIK_SECRET = (await import('../support/application')).testSecret
    readEnvironmentAnew()
    const token = makeWalkToken({ odd: true } as never)
    expect((await ines(`/walk/${token}/visit`)).status).toBe(403)
  })
})

describe('hashing', () => {
  it('is not begun for tokens that are none: sixty at once leave signing in as quick as before', async () => {
    const form = (path: string, fields: Record<string, string>) =>
      raw(path, {
        method: 'POST',
        body: new URLSearchParams(fields).toString(),
        headers: { 'content-type': 'application/x-www-form-urlencoded' },
      })
    const start = performance.now()
    const answers = Promise.all(
      Array.from({ length: 60 }, (_, i) =>
        form(i % 2 ? '/reset' : '/first-keeper', {
          token: `made-up-${i}`,
          password: 'harbour lights',
          name: 'x',
          email: 'x@x.example',
        }),
      ),
    )
    expect(
      (
        await fetch(`${application.url}/api/session`, {
          method: 'POST',
          headers: json,
          body: '{"email":"pia@wexlow.example","password":"wexlow-demo"}',
        })
      ).status,
    ).toBe(200)
    expect(new Set((await answers).map(one => one.status))).toEqual(new Set([303, 403]))
    expect(performance.now() - start).toBeLessThan(8000)
  })
})

describe('narrowed rights', () => {
  it('to add people bring no level, role, fact or firm, by invitation or import', async () => {
    const dace = await desk({ kind: 'people', actions: ['look', 'add'] })
    const invite = (part: object) =>
      dace('/api/loft/people/invite', { method: 'POST', json: { email: 'new@orr.example', ...part } }).then(codeOf)
    expect([
      await invite({ levels: ['guild'] }),
      await invite({ roles: ['stockist'] }),
      await invite({ firm: 'gullhaven' }),
      await invite({}),
    ]).toEqual(['not-allowed', 'not-allowed', 'not-allowed', 'done'])
    const load = (csv: string, dry = '') =>
      dace(`/api/loft/people/import${dry}`, {
        method: 'POST',
        body: csv,
        headers: { 'content-type': 'text/csv' },
      }).then(codeOf)
    expect([
      await load('name,email,levels\nA,a@orr.example,guild\n'),
      await load('name,email,roles\nA,a@orr.example,stockist\n', '?dry=1'),
      await load('name,email,spindles\nA,a@orr.example,3\n'),
      await load('name,email\nA,a@orr.example\n'),
    ]).toEqual(['not-allowed', 'not-allowed', 'not-allowed', 'done'])
  })

  it('to change firms give nobody anything, name nobody, and touch nobody who may do more', async () => {
    let dace = await desk({ kind: 'firms', actions: ['look', 'change', 'withdraw'] })
    const change = (body: object) => dace('/api/loft/firms/gullhaven', { method: 'PUT', json: body }).then(codeOf)
    expect([
      await change({ giveLevel: 'guild' }),
      await change({ giveRole: 'stockist' }),
      await change({ takeRole: 'stockist' }),
      await change({ addPerson: 'p-pia' }),
      await change({ removePerson: 'p-stella' }),
      await change({ makeOwner: 'p-stella' }),
      await change({ fact: 'vat', value: 'IE6388047V' }),
    ]).toEqual(Array.from({ length: 7 }, () => 'not-allowed'))
    expect(await codeOf(await dace('/api/loft/firms/gullhaven', { method: 'DELETE' }))).toBe('not-allowed')
    await application.database.db
      .update(firm)
      .set({ facts: { vat: 'IE6388047V' } })
      .where(eq(firm.id, 'gullhaven'))
    expect(await (await dace('/api/loft/firms')).text()).not.toMatch(/Stella|stella@|IE6388047V/)
    expect(await (await dace('/api/loft/firms/gullhaven')).text()).not.toMatch(/Stella|stella@|IE6388047V/)
    dace = await desk(
      { kind: 'firms', actions: ['look', 'change'] },
      { kind: 'people', actions: ['look'], fields: ['name'] },
      { kind: 'people', actions: ['change'], fields: ['roles', 'levels'] },
    )
    expect([
      await change({ addPerson: 'p-ines', owner: true }),
      await change({ addPerson: 'p-pia' }),
      await change({ removePerson: 'p-pia' }),
    ]).toEqual(['not-allowed', 'done', 'done'])
  })

  it('leave what is not given as it was', async () => {
    await ines('/api/loft/things/block', {
      method: 'POST',
      json: {
        id: 'kept-box',
        kind: 'group',
        in: { page: 'visit' },
        title: 'Kept',
        summary: 'Words',
        oneOf: true,
        body: {},
      },
    })
    expect(await codeOf(await ines('/api/loft/things/block/kept-box', { method: 'PUT', json: { position: 7 } }))).toBe(
      'done',
    )
    expect(await (await ines('/api/loft/things/block/kept-box')).json()).toMatchObject({
      position: 7,
      thing: { title: 'Kept', summary: 'Words', oneOf: true, in: { page: 'visit' } },
    })
    await ines('/api/loft/things/page/ferry', { method: 'PUT', json: { summary: 'Two boats a day.' } })
    expect(((await (await ines('/api/loft/things/page/ferry')).json()) as { thing: object }).thing).toMatchObject({
      parent: 'visit',
      path: '/visit/ferry',
      summary: 'Two boats a day.',
    })
    await ines('/api/loft/people/p-pia', { method: 'PUT', json: { facts: { spindles: 2 } } })
    await ines('/api/loft/people/p-pia', { method: 'PUT', json: { facts: { hall: 'north' } } })
    expect(
      (await application.database.db.select({ facts: person.facts }).from(person).where(eq(person.id, 'p-pia')))[0]!
        .facts,
    ).toEqual({ spindles: 2, hall: 'north' })
    const settings = async () =>
      ((await (await ines('/api/loft/settings')).json()) as { settings: Record<string, unknown> }).settings['sign-up']
    const before = await settings()
    await ines('/api/loft/settings/sign-up', { method: 'PUT', json: { mode: 'invitation' } })
    expect(await settings()).toEqual({ ...(before as object), mode: 'invitation' })
  })

  it('to withdraw a group do not remove what stands in it', async () => {
    await ines('/api/loft/things/block', {
      method: 'POST',
      json: { id: 'box', kind: 'group', in: { page: 'visit' }, body: {} },
    })
    await ines('/api/loft/things/block', {
      method: 'POST',
      json: { id: 'box-words', kind: 'text', in: { block: 'box' }, body: { markdown: 'x' } },
    })
    let dace = await desk(
      { kind: 'blocks-group', actions: ['look', 'withdraw', 'change'] },
      { kind: 'pages', actions: ['look', 'withdraw'] },
    )
    expect(await codeOf(await dace('/api/loft/things/block/box', { method: 'DELETE' }))).toBe('not-allowed')
    expect(await codeOf(await dace('/api/loft/things/page/ferry', { method: 'DELETE' }))).toBe('not-allowed')
    dace = await desk(
      { kind: 'blocks-group', actions: ['look', 'withdraw'] },
      { kind: 'blocks-text', actions: ['withdraw'] },
    )
    expect(await codeOf(await dace('/api/loft/things/block/box', { method: 'DELETE' }))).toBe('done')
  })

  it('to look at gates walk as nobody who may do more, and as no real person', async () => {
    let dace = await desk({ kind: 'gates', actions: ['look'] })
    const walk = (visitor: object) =>
      dace('/api/loft/walk', { method: 'POST', json: { tier: 'x', draft: false, visitor } })
    const as = { person: { id: 'nobody-real' } }
    expect([
      await codeOf(await walk({ ...as, roles: ['keeper'] })),
      await codeOf(await walk({ ...as, roles: ['shop-hand'] })),
      await codeOf(await walk({ person: { id: 'p-stella' } })),
      await codeOf(await walk({ ...as, roles: ['stockist'] })),
    ]).toEqual(['not-allowed', 'not-allowed', 'not-allowed', 'done'])
    dace = await desk({ kind: 'gates', actions: ['look'] }, { kind: 'people', actions: ['look'] })
    await application.database
      .sql`insert into purchase (reference, person_id, level, sort, amount, state) values ('pay-seen', 'p-mako', 'maker', 'new', 4321, 'paid')`
    const page = async () => {
      const { base } = (await (
        await walk({ person: { id: 'p-mako' }, levels: [{ level: 'maker', since: '2026-01-01T00:00:00Z' }] })
      ).json()) as { base: string }
      return (await dace(`${base}/account`)).text()
    }
    expect(await page()).not.toContain('43.21')
    dace = await desk(
      { kind: 'gates', actions: ['look'] },
      { kind: 'people', actions: ['look'] },
      { kind: 'orders', actions: ['look'] },
    )
    expect(await page()).toContain('43.21')
    // A pass made before the right was taken away shows nothing any more.
    const { base } = (await (await walk({ person: { id: 'p-mako' } })).json()) as { base: string }
    await desk({ kind: 'gates', actions: ['look'] })
    expect((await dace(`${base}/account`)).status).toBe(403)
  })

  it('to look at activity name nobody; to look at people tell no payments', async () => {
    await fetch(`${application.url}/trade`)
    let dace = await desk({ kind: 'activity', actions: ['look'] })
    const list = await (await dace('/api/loft/activity/list?days=800')).text()
    expect(list).toContain('"kind"')
    expect(list).not.toMatch(/Ines|p-ines|Mako|p-mako/)
    expect(await codeOf(await dace('/api/loft/activity/list?person=p-ines'))).toBe('not-allowed')
    dace = await desk({ kind: 'people', actions: ['look', 'change'], fields: ['levels'] })
    expect(await (await dace('/api/loft/people/p-mako')).text()).not.toMatch(/4321|"paidAmount":\d/)
    dace = await desk({ kind: 'people', actions: ['change'], fields: ['levels'] })
    expect(
      await codeOf(
        await dace('/api/loft/people/bulk/preview', {
          method: 'POST',
          json: { who: { query: {} }, what: { do: 'giveLevel', level: 'guild' } },
        }),
      ),
    ).toBe('not-allowed')
  })

  it('to mail do not rewrite what carries a link that lets somebody in, nor read such a link', async () => {
    const dace = await desk(
      { kind: 'mail-texts', actions: ['look', 'change'] },
      { kind: 'settings-mail', actions: ['look'] },
    )
    const text = { subject: 'Hello', plain: 'Hello {name}', html: '<p>Hello {name}</p>' }
    const save = (key: string) => dace(`/api/loft/mail/texts/${key}`, { method: 'PUT', json: text }).then(codeOf)
    expect([await save('reset'), await save('invite'), await save('confirm'), await save('waiting')]).toEqual([
      'not-allowed',
      'not-allowed',
      'not-allowed',
      'done',
    ])
    await raw('/forgot', {
      method: 'POST',
      body: 'email=ines%40wexlow.example',
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
    })
    const outbox = async (who: typeof ines) => (await who('/api/loft/mail/outbox?search=ines@')).text()
    await expect.poll(() => outbox(ines)).toMatch(/reset\?token=[\w-]{20}/)
    expect(await outbox(dace)).toMatch(/reset\?token=…/)
    expect(await application.database.db.$count(mailOut, eq(mailOut.text, 'reset'))).toBe(1)
  })
})

describe('a visitor', () => {
  it('is told in their own data of no page they may not find', async () => {
    const pia = await signedIn(application.url, 'pia')
    for (const path of ['/trade', '/visit', '/techniques/gansey']) await pia(path)
    await ines('/api/loft/activity/list')
    const answer = await pia('/account/data')
    const text = await answer.text()
    expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'application/json'])
    expect(text).toContain('"visit"')
    expect(text).not.toContain('"trade"')
  })

  it('reads in an address only what the application says itself', async () => {
    for (const path of [
      '/sign-in?problem=Call+me+at+666',
      '/first-keeper?problem=Call+me+at+666',
      '/sign-in?problem=constructor',
    ])
      expect(await (await fetch(application.url + path)).text()).not.toMatch(/666|native code/)
  })

  it("who is signed in is not told to sign in, and keeps nobody's copy of their account", async () => {
    const pia = await signedIn(application.url, 'pia')
    for (const path of ['/techniques/gansey', '/techniques/mending', '/techniques/cabling'])
      expect((await (await pia(path)).text()).replaceAll(/<form[\s\S]*?<\/form>/g, '')).not.toMatch(/sign in/i)
    const account = await pia('/account')
    expect([account.headers.get('cache-control'), account.headers.get('etag')]).toEqual(['private, no-store', null])
  })
})

describe('every answer', () => {
  it('is protected, files too, and says nothing of what made it', async () => {
    for (const path of ['/favicon.svg', '/visit', '/api/session', '/nothing/here', '/%00']) {
      const { headers } = await raw(path)
      expect([path, headers['x-content-type-options'], headers['x-powered-by']]).toEqual([path, 'nosniff', undefined])
    }
    const loft = await ines('/loft', { headers: { accept: 'text/html' } })
    expect(loft.headers.get('content-security-policy')).not.toContain('unsafe-inline')
    expect(loft.headers.get('content-security-policy')).toMatch(/script-src 'self' 'sha256-/)
  })
})

describe('the log', () => {
  it('is a JSON object a line, with the route by its pattern and nothing anybody sent', async () => {
    const { url, said, kill } = await serve(application.database.url)
    onTestFinished(kill)
    const keeper = await signedIn(url, 'ines')
    await fetch(`${url}/very-secret-path?token=very-secret`, {
      headers: { 'user-agent': 'very-secret', 'x-request-id': 'very-secret' },
    })
    await keeper('/api/loft/people/very-secret')
    await fetch(`${url}/api/session`, {
      method: 'POST',
      headers: json,
      body: '{"email":"very-secret@x.example","password":"very-secret"}',
    })
    const lines = () =>
      said()
        .trim()
        .split('\n')
        .map(line => JSON.parse(line) as Record<string, unknown>)
    await expect.poll(lines).toContainEqual(expect.objectContaining({ route: '/api/session', status: 401 }))
    expect(said()).not.toContain('very-secret')
    const told = lines().filter(line => line.msg === 'request')
    expect(told).toContainEqual(
      expect.objectContaining({
        level: 'info',
        method: 'GET',
        route: '/api/loft/people/:id',
        status: 404,
        caller: 'staff',
      }),
    )
    expect(told).toContainEqual(expect.objectContaining({ method: 'GET', route: 'page', status: 404, caller: 'guest' }))
    for (const line of told)
      expect([typeof line.time, typeof line.ms, typeof line.request]).toEqual(['string', 'number', 'string'])
  })
})

describe('whoever watches', () => {
  it('asks for life, readiness and numbers, from here or with a token', async () => {
    expect((await raw('/health')).status).toBe(200)
    expect(JSON.parse((await raw('/ready')).text)).toMatchObject({ ready: true, database: true })
    const numbers = (await raw('/metrics')).text
    for (const name of [
      'bravik_http_requests_total{route="page"',
      'bravik_http_request_seconds_bucket',
      'bravik_database_connections',
      'bravik_snapshot_age_seconds',
      'bravik_mail_oldest_seconds',
      'bravik_purchases_pending',
      'bravik_kept_pages_bytes',
    ])
      expect(numbers).toContain(name)
    expect((await raw('/metrics', { headers: { 'x-forwarded-for': '198.51.100.1' } })).status).toBe(404)
    const other = await application.another({ BRAVIK_METRICS_TOKEN: 'a token for the watch' })
    expect(
      (
        await rawRequest(other, '/metrics', {
          headers: { 'x-forwarded-for': '198.51.100.1', authorization: 'Bearer a token for the watch' },
        })
      ).status,
    ).toBe(200)
  })
})
