import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { signedIn, startApplication } from '../support/application'
import type { Application } from '../support/application'

/** The pages anybody can send a form to, over plain HTTP: what strangers, members and programs get back. */
let application: Application
beforeAll(async () => {
  application = await startApplication()
})
afterAll(() => application.stop())

type Caller = Awaited<ReturnType<typeof signedIn>>
const form = (body: Record<string, string>, headers: Record<string, string> = {}): RequestInit => ({
  method: 'POST',
  redirect: 'manual',
  headers: { 'content-type': 'application/x-www-form-urlencoded', ...headers },
  body: new URLSearchParams(body),
})
const post = (path: string, body: Record<string, string>, headers: Record<string, string> = {}) =>
  fetch(application.url + path, form(body, headers))
const postAs = (caller: Caller, path: string, body: Record<string, string>) => caller(path, form(body) as never)
const nell = { name: 'Nell Orr', email: 'nell@orr.example', password: 'harbour lights' }
const rows = async (query: ReturnType<typeof sql>) => [...(await application.database.db.execute(query))]
/** What the stand-in was given for an address, newest first; waits until something has come. */
async function mails(to: string): Promise<{ subject: string; plain: string }[]> {
  let found: { subject: string; plain: string }[] = []
  await expect
    .poll(
      async () => {
        found = (await rows(
          sql`select subject, plain from mail_kept where recipient = ${to} order by id desc`,
        )) as never
        return found.length
      },
      { timeout: 20_000, interval: 200 },
    )
    .toBeGreaterThan(0)
  return found
}
const tokenIn = (text: string) => /token=([\w-]+)/.exec(text)![1]!
/** A page without what differs anyway, so that two can be compared. */
const bare = async (answer: Response) =>
  `${answer.status} ${answer.headers.get('location') ?? ''} ${(await answer.text()).replaceAll(/[\w.]+@[\w.]+|[\w-]{20,}/g, '')}`

describe('the words of the site', () => {
  it('are in the language of the address or the browser, errors of forms too', async () => {
    const keeper = await signedIn(application.url, 'ines')
    const said = await keeper('/api/loft/site-words/de', {
      method: 'PUT',
      json: { words: { 'page.nothing': { guest: 'Verlaufen?' } }, offered: true },
    })
    expect(said.status).toBe(204)
    const german = { 'accept-language': 'fr;q=0.3, de-AT' }
    const read = async (path: string, headers: Record<string, string> = {}) => {
      const answer = await fetch(application.url + path, { headers })
      return { vary: answer.headers.get('vary') ?? '', html: await answer.text() }
    }
    expect((await read('/no-such-page', german)).html).toContain('Verlaufen?')
    expect((await read('/no-such-page?lang=de')).html).toContain('Verlaufen?')
    expect((await read('/no-such-page', { 'accept-language': 'fr' })).html).toContain('Nothing here')
    expect((await read('/no-such-page?lang=en', german)).html).toContain('Nothing here')
    expect((await read('/', german)).vary).toContain('Accept-Language')
    // A page that needs nothing but its words says them so too.
    const bare = await read('/go/nothing', { ...german, accept: 'text/html' })
    expect(bare.html).toContain('<html lang="de">')
    expect(bare.html).toContain('Zur Startseite')
    expect((await read('/go/nothing', { accept: 'text/html' })).html).toContain('To the front page')
    const refused = await post('/sign-up', { ...nell, email: 'nell', password: 'short' }, german)
    const html = await refused.text()
    expect(html).toContain('Das ist keine E-Mail-Adresse.')
    expect(html).toContain('Ein Passwort hat mindestens zehn Zeichen.')
    expect(html).toContain('E-Mail-Adresse')
    await keeper('/api/loft/site-words/de', {
      method: 'PUT',
      json: { words: { 'page.nothing': null }, offered: false },
    })
    expect((await read('/no-such-page', german)).html).toContain('Nothing here')
  })
})

describe('the door', () => {
  it('answers alike whether an address is known or not', async () => {
    const known = await post('/sign-up', { ...nell, email: 'mako@wexlow.example' })
    const fresh = await post('/sign-up', nell)
    expect(await bare(known)).toBe(await bare(fresh))
    expect(fresh.headers.get('location')).toBe('/signed-up?then=look-in-mail')
    expect((await mails('mako@wexlow.example'))[0]!.subject).toBe('You have an account already')
    expect(await bare(await post('/forgot', { email: 'guda@wexlow.example' }))).toBe(
      await bare(await post('/forgot', { email: 'nobody@orr.example' })),
    )
    const wrong = async (email: string) => bare(await post('/sign-in', { email, password: 'not this' }))
    expect(await wrong('fenn@wexlow.example')).toBe(await wrong('nobody@orr.example'))
  })

  it('takes a mailed link once, whole, and with the password', async () => {
    const token = tokenIn((await mails(nell.email))[0]!.plain)
    const confirm = (given: string, password: string) => post(`/confirm?token=${given}`, { token: given, password })
    expect((await fetch(`${application.url}/confirm?token=${token}`)).status).toBe(200)
    expect([(await confirm(token.slice(0, -1), nell.password)).status, (await confirm(token, 'guess')).status]).toEqual(
      [403, 401],
    )
    const done = await confirm(token, nell.password)
    expect([done.status, done.headers.get('location')]).toEqual([303, '/account'])
    expect(done.headers.getSetCookie().find(one => one.startsWith('bravik_session='))).toMatch(/HttpOnly; SameSite=Lax/)
    expect((await confirm(token, nell.password)).status).toBe(403)
    expect((await post('/sign-in', nell)).headers.get('location')).toBe('/account')
  })

  it('says at each field what is wrong, keeps what was typed, and never sends a password back', async () => {
    const answer = await post('/sign-up', {
      name: '<b>Nell</b>',
      email: 'nowhere',
      password: 'secret-9',
      'fact-spindles': 'many',
    })
    const html = await answer.text()
    expect(answer.status).toBe(422)
    for (const words of [
      'This is not an e-mail address.',
      'A password has ten characters or more.',
      'Spindles owned is a number.',
      '&lt;b&gt;Nell&lt;/b&gt;',
    ])
      expect(html).toContain(words)
    expect(html).not.toContain('secret-9')
  })

  it('stays shut to forms of other sites and to bodies without an end', async () => {
    expect((await post('/sign-up', nell, { origin: 'https://evil.example' })).status).toBe(403)
    expect((await post('/account/do', { what: 'end-others' }, { 'sec-fetch-site': 'cross-site' })).status).toBe(403)
    expect((await post('/sign-up', { ...nell, name: 'x'.repeat(1_100_000) })).status).toBe(413)
  })

  it('can be closed, or opened to the invited alone', async () => {
    const ines = await signedIn(application.url, 'ines')
    const settings = ((await (await ines('/api/loft/settings')).json()) as { settings: { 'sign-up': object } })
      .settings['sign-up']
    const mode = (value: string) =>
      ines('/api/loft/settings/sign-up', { method: 'PUT', json: { ...settings, mode: value } })
    expect((await mode('ajar')).status).toBe(400)
    await mode('closed')
    expect(await (await fetch(`${application.url}/sign-up`)).text()).toContain('Nobody can sign up here')
    expect((await post('/sign-up', { ...nell, email: 'late@orr.example' })).status).toBe(403)
    await mode('invitation')
    expect(
      (await ines('/api/loft/people/invite', { method: 'POST', json: { email: 'una@orr.example', roles: ['keeper'] } }))
        .status,
    ).toBe(400)
    expect(
      (
        await ines('/api/loft/people/invite', {
          method: 'POST',
          json: { email: 'una@orr.example', roles: ['stockist'], levels: ['guild'] },
        })
      ).status,
    ).toBe(204)
    const invitation = /invitation=([\w-]+)/.exec((await mails('una@orr.example'))[0]!.plain)![1]!
    expect(await (await fetch(`${application.url}/sign-up?invitation=${invitation}`)).text()).toContain(
      'una@orr.example',
    )
    expect(
      (
        await post('/sign-up', { name: 'Una', email: 'somebody@else.example', password: 'ten characters', invitation })
      ).headers.get('location'),
    ).toBe('/signed-up?then=can-sign-in')
    const una = await signedIn(application.url, 'una@orr.example', 'ten characters')
    expect((await una('/trade')).status).toBe(200)
    await mode('open')
  })

  it('lets nobody be flooded with mail', async () => {
    const statuses: number[] = []
    for (let i = 0; i < 7; i++) statuses.push((await post('/forgot', { email: 'stella@gullhaven.example' })).status)
    expect(statuses).toEqual([303, 303, 303, 303, 303, 429, 429])
  })
})

describe('a member', () => {
  it('takes a new address by a link sent there, and keeps the old one until then', async () => {
    const tilde = await signedIn(application.url, 'tilde')
    const change = (email: string, oldPassword = 'wexlow-demo') =>
      postAs(tilde, '/account/profile', { what: 'address', email, oldPassword })
    expect((await change('tilde@new.example', 'guess')).status).toBe(422)
    // Somebody else's address: answered alike, and its owner is told.
    expect((await change('isla@wexlow.example')).headers.get('location')).toBe('/account/profile?done=address')
    expect((await change('tilde@new.example')).headers.get('location')).toBe('/account/profile?done=address')
    const token = tokenIn((await mails('tilde@new.example'))[0]!.plain)
    const isla = await signedIn(application.url, 'isla')
    expect((await postAs(isla, `/account/address?token=${token}`, { token })).status).toBe(403)
    // Refused for the wrong person, the link still works for the right one.
    expect((await postAs(tilde, `/account/address?token=${token}`, { token })).headers.get('location')).toBe(
      '/account/profile?done=new-address',
    )
    await expect(signedIn(application.url, 'tilde', 'wexlow-demo')).rejects.toThrow()
    await signedIn(application.url, 'tilde@new.example', 'wexlow-demo')
  })

  it('is sent to sign in first, and back', async () => {
    for (const path of ['/account/profile', '/account/buy?level=guild', '/apply/role/stockist', '/join-firm?token=x']) {
      const answer = await fetch(application.url + path, { redirect: 'manual' })
      expect([answer.status, answer.headers.get('location')]).toEqual([
        303,
        `/sign-in?back=${encodeURIComponent(path)}`,
      ])
    }
    const back = await post('/sign-in', {
      email: 'guda@wexlow.example',
      password: 'wexlow-demo',
      back: '/account/buy?level=guild',
    })
    expect(back.headers.get('location')).toBe('/account/buy?level=guild')
  })

  it('cannot buy what is not for sale, nor for another price than the one shown', async () => {
    const pia = await signedIn(application.url, 'pia')
    const buy = (level: string, amount: string) => postAs(pia, `/account/buy?level=${level}`, { level, amount })
    expect([
      (await buy('friend', '0')).status,
      (await buy('elder', '0')).status,
      (await buy('maker', '1')).status,
      (await buy('maker', 'x')).status,
    ]).toEqual([409, 409, 409, 409])
    expect(await rows(sql`select * from purchase where person_id = 'p-pia'`)).toEqual([])
  })

  it('applies only for what is open to them, and staff find staff roles by kind of thing', async () => {
    const [pia, oona] = [await signedIn(application.url, 'pia'), await signedIn(application.url, 'oona')]
    expect((await pia('/apply/role/page-hand')).status).toBe(404)
    expect((await postAs(pia, '/apply/role/page-hand', { 'answer-0': 'all' })).status).toBe(404)
    expect(await (await pia('/apply')).text()).not.toContain('Page hand')
    expect(await (await oona('/apply')).text()).toMatch(/parts[\s\S]*Page hand/)
    expect(
      (await postAs(pia, '/apply/role/stockist', { 'answer-0': 'Here', 'answer-1': 'All' })).headers.get('location'),
    ).toBe('/account?done=applied')
    expect((await postAs(pia, '/apply/role/stockist', { 'answer-0': 'Again' })).status).toBe(409)
  })

  it("is not the last keeper who leaves, and takes nobody else's sessions or colleagues along", async () => {
    const [ines, stella] = [
      await signedIn(application.url, 'ines'),
      await signedIn(application.url, 'stella@gullhaven.example'),
    ]
    expect((await postAs(ines, '/account/leave', { oldPassword: 'wexlow-demo' })).status).toBe(409)
    const [session] = await rows(sql`select left(token_hash, 24) id from session where person_id = 'p-ines' limit 1`)
    await postAs(stella, '/account/do', { what: 'end-session', session: String(session!.id) })
    expect((await ines('/api/loft/start')).status).toBe(200)
    expect((await postAs(stella, '/account/do', { what: 'firm-remove', person: 'p-ines' })).status).toBe(404)
    expect((await postAs(stella, '/account/do', { what: 'wish' })).status).toBe(422)
    expect((await fetch(`${application.url}/account/data`)).status).toBe(401)
  })
})

describe('links that are counted', () => {
  it('lead on where their block says, for whom it opens, and are noted', async () => {
    const go = (block: string) => fetch(`${application.url}/go/${block}`, { redirect: 'manual' })
    const followed = await go('welcome-join')
    expect([followed.status, followed.headers.get('location'), followed.headers.get('cache-control')]).toEqual([
      303,
      '/join',
      'private, no-store',
    ])
    expect([(await go('hello-guild')).status, (await go('footer-trade')).status, (await go('nothing')).status]).toEqual(
      [404, 404, 404],
    )
    await expect
      .poll(
        () =>
          rows(
            sql`select tier, subject_id from activity where kind = 'click' and at > now() - interval '1 minute' and subject_id = 'welcome-join'`,
          ),
        { timeout: 10_000 },
      )
      .toEqual([{ tier: 'guest', subject_id: 'welcome-join' }])
    // What was seen and refused along the way is there too, with the gate that refused.
    await (
      await signedIn(application.url, 'mako')
    )('/techniques/gansey')
    await expect
      .poll(
        () =>
          rows(
            sql`select tier, gate from activity where kind = 'refused' and person_id = 'p-mako' and at > now() - interval '1 minute'`,
          ),
        { timeout: 10_000 },
      )
      .toEqual([{ tier: 'maker', gate: 'gansey' }])
  })
})

describe('walking as a person', () => {
  it('takes the right to look at people; a tier is nobody in particular', async () => {
    const oona = await signedIn(application.url, 'oona')
    const walk = (id: string) =>
      oona('/api/loft/walk', { method: 'POST', json: { tier: 'x', visitor: { person: { id } }, draft: false } })
    expect([(await walk('tier-maker')).status, (await walk('p-guda')).status]).toEqual([200, 403])
    const dace = await signedIn(application.url, 'dace')
    const { base } = (await (
      await dace('/api/loft/walk', {
        method: 'POST',
        json: {
          tier: 'Guda',
          visitor: {
            person: { id: 'p-guda', name: 'Guda Moor' },
            levels: [{ level: 'guild', since: '2026-01-01T00:00:00Z' }],
          },
          draft: false,
        },
      })
    ).json()) as { base: string }
    const home = await (await dace(`${base}/account`)).text()
    expect(home).toContain('Guda Moor')
    expect(home).not.toMatch(/action="\/(account\/do|sign-out)"/)
  })
})
