import { readdirSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { wexlowStaffRules } from '../../demo/wexlow/people-rules'
import { mayStaff, staffRule } from '../../core/staff/staff-rule'
import type { StaffRights } from '../../core/staff/staff-rule'
import { actionRights } from '../../server/actions/actions'
import { signedIn, startApplication } from '../support/application'
import type { Application } from '../support/application'

/** Every address of the console, as declared: there is no other way in than the one route that answers them. */
const routes = Object.keys(actionRights)
const folder = fileURLToPath(new URL('../../server/api/loft', import.meta.url))

let application: Application
beforeAll(async () => {
  // A staff role nobody has said anything about yet.
  application = await startApplication('demo', {}, async ({ db }) => {
    await db.execute(
      sql`insert into version (kind, key, position, body, edition_from, changed_by) values ('role', 'bare-hand', 99, '{"id":"bare-hand","name":"Bare hand","staff":true}', 1, 'test')`,
    )
    await db.execute(
      sql`insert into version (kind, key, position, body, edition_from, changed_by) values ('role', 'note-hand', 100, '{"id":"note-hand","name":"Note hand","staff":true}', 1, 'test')`,
    )
    const notes = { role: 'note-hand', kind: 'people', actions: ['look', 'change'], fields: ['notes'] }
    await db.execute(sql`insert into staff_rule (role, body) values ('note-hand', ${JSON.stringify(notes)}::jsonb)`)
    await db.execute(
      sql`insert into role_grant (person_id, role, granted_by) values ('p-pia', 'bare-hand', 'test'), ('p-mako', 'note-hand', 'test')`,
    )
  })
})
afterAll(() => application.stop())

/** What the demo's people may do, by the rules of their roles. */
const rightsOf = (role: string): StaffRights => ({
  personId: '',
  masterKey: role === 'keeper',
  rules: wexlowStaffRules.filter(rule => rule.role === role).map(rule => staffRule.parse(rule)),
})
const people: Record<string, StaffRights | null> = {
  'stella@gullhaven.example': null,
  pia: rightsOf('bare-hand'),
  oona: rightsOf('shop-hand'),
  dace: rightsOf('front-desk'),
  tomas: rightsOf('page-hand'),
}

function opens(rights: StaffRights | null, route: string): boolean {
  const right = actionRights[route]!
  if (!rights) return false
  return right === 'staff' || [right].flat().some(ask => mayStaff(rights, ask).allowed)
}

describe("the console's routes", () => {
  it('are answered by the actions that say what they take, and by nothing beside them', () => {
    expect(readdirSync(folder, { recursive: true })).toEqual(['[...].ts'])
    expect(routes.length).toBeGreaterThan(45)
    for (const [route, right] of Object.entries(actionRights))
      if (right !== 'staff') expect([right].flat().length, route).toBeGreaterThan(0)
  })

  it('that nobody declared answer nobody', async () => {
    const ines = await signedIn(application.url, 'ines')
    for (const path of ['nothing', 'people/p-pia/nothing', 'entries'])
      expect((await ines(`/api/loft/${path}`)).status, path).toBe(404)
    expect((await ines('/api/loft/start', { method: 'DELETE' })).status).toBe(405)
  })

  it('let each person do their part and no more, and nothing is done on the way', async () => {
    const callers = Object.fromEntries(
      await Promise.all(Object.keys(people).map(async who => [who, await signedIn(application.url, who)] as const)),
    )
    for (const route of routes) {
      const [method, path] = route.split(' ') as [string, string]
      const address = path
        .replaceAll(/:\w+/g, 'nothing-at-all')
        .replace('/entries/nothing-at-all', '/entries/gate')
        .replace('/things/nothing-at-all', '/things/page')
      const init = { method, ...(method === 'GET' ? {} : { json: { nothing: true } }) }
      expect((await fetch(application.url + address, { method })).status, `guest ${route}`).toBe(401)
      for (const [who, rights] of Object.entries(people)) {
        const { status } = await callers[who]!(address, init)
        expect(status === 403, `${who} ${route} ${status}`).toBe(!opens(rights, route))
        expect(status, `${who} ${route}`).toBeLessThan(500)
      }
    }
    const left = await application.database.db.execute<{ action: string }>(
      sql`select distinct action from trace where action not like 'session%' and action not like '%.export'`,
    )
    expect([...left]).toEqual([])
  })

  it('show and take back invitations for nobody who may only write notes about people', async () => {
    const [ines, hand] = [await signedIn(application.url, 'ines'), await signedIn(application.url, 'mako')]
    const invited = await ines('/api/loft/people/invite', { method: 'POST', json: { email: 'una@walk.example' } })
    expect(invited.status).toBeLessThan(300)
    const [invitation] = (await (await ines('/api/loft/people/invitations')).json()) as { id: string }[]
    const address = `/api/loft/people/invitations/${invitation!.id}`
    expect(
      (await hand('/api/loft/people/p-guda/notes', { method: 'POST', json: { text: 'Calls back.' } })).status,
    ).toBeLessThan(300)
    expect((await hand('/api/loft/people/invitations')).status).toBe(403)
    expect((await hand(address, { method: 'DELETE' })).status).toBe(403)
    expect((await ines(address, { method: 'DELETE' })).status).toBe(204)
  })

  it('send of the board only what a role may look at', async () => {
    const board = async (who: string) =>
      (await (await signedIn(application.url, who))('/api/loft/start')).json() as Promise<{
        versions: { kind: string }[]
        me: { rules: unknown[] }
      }>
    const bare = await board('pia')
    expect([bare.versions, bare.me.rules]).toEqual([[], []])
    const desk = await board('dace')
    // Who looks at gates sees what they stand before; of the rules what the desk's sentences name.
    expect([...new Set(desk.versions.map(one => one.kind))].sort()).toEqual(
      [
        ...['audience', 'fact', 'gate', 'landing', 'level', 'permission', 'role', 'settings', 'tier'],
        ...['block', 'category', 'download', 'folder', 'menu', 'menuItem', 'page', 'post', 'product', 'topic'],
      ].sort(),
    )
    const [ines, products] = [await signedIn(application.url, 'ines'), '/api/loft/products']
    expect(JSON.stringify(await (await ines(products)).json())).toContain('cost')
    expect(JSON.stringify(await (await (await signedIn(application.url, 'oona'))(products)).json())).not.toContain(
      'cost',
    )
  })
})

describe('guessing', () => {
  it('a password from many networks stops after ten tries, and does not lock out a browser that was here before', async () => {
    const behind = await application.another({ BRAVIK_TRUST_PROXY: '1' })
    const guess = (i: number, url: string) =>
      fetch(`${url}/api/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'x-forwarded-for': `198.51.${i >> 8}.${i & 255}` },
        body: '{"email":"isla@wexlow.example","password":"x"}',
      }).then(answer => answer.status)
    const first = await fetch(`${behind}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{"email":"isla@wexlow.example","password":"wexlow-demo"}',
    })
    const cookie = first.headers
      .getSetCookie()
      .map(one => one.split(';')[0]!)
      .find(one => one.startsWith('bravik_known='))!
    const statuses: number[] = []
    for (let i = 0; i < 1000; i += 20)
      statuses.push(...(await Promise.all(Array.from({ length: 20 }, (_, n) => guess(i + n, behind)))))
    expect([statuses.filter(one => one === 401).length, statuses.filter(one => one === 429).length]).toEqual([10, 990])
    // Another process, started later, has not forgotten.
    const second = await application.another({ BRAVIK_TRUST_PROXY: '1' })
    expect(await guess(5000, second)).toBe(429)
    const back = await fetch(`${second}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', cookie },
      body: '{"email":"isla@wexlow.example","password":"wexlow-demo"}',
    })
    expect(back.status).toBe(200)
  })
})
