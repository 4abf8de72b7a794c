/** What a fact's path names of the request is noted like what a condition names: nobody else's answer is kept for a visitor. */
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { signedIn, startApplication } from '../support/application'
import type { Application } from '../support/application'

const service = createServer((request, response) => {
  response.writeHead(200, { 'content-type': 'application/json' })
  response.end(JSON.stringify({ near: /^\/(de|DE)/.test(request.url ?? '') }))
})
let application: Application
beforeAll(async () => {
  await new Promise<void>(resolve => service.listen(0, '127.0.0.1', resolve))
  const { port } = service.address() as AddressInfo
  application = await startApplication('demo', {
    BRAVIK_FACT_SERVICES: `near=http://127.0.0.1:${port}`,
    BRAVIK_COUNTRY_HEADER: 'x-country',
  })
  const ines = await signedIn(application.url, 'ines')
  const put = async (kind: string, body: { id: string }) => {
    const answer = await ines(`/api/loft/entries/${kind}/${body.id}`, { method: 'PUT', json: { body, expects: null } })
    expect([kind, answer.status]).toEqual([kind, 200])
  }
  for (const named of ['language', 'country']) {
    const id = `by-${named}`
    await put('fact', {
      id,
      name: `Near by ${named}`,
      type: 'flag',
      from: { service: 'near', path: `/{${named}}`, at: '/near' },
    } as never)
    await ines('/api/loft/things/page', { method: 'POST', json: { id, path: `/${id}`, title: id } })
    const block = { id: `${id}-part`, kind: 'text', in: { page: id }, body: { markdown: 'Near enough.' } }
    await ines('/api/loft/things/block', { method: 'POST', json: block })
    await put('gate', { id, on: { block: `${id}-part` }, open: { fact: { name: id, is: true } } } as never)
  }
  expect((await ines('/api/loft/publish', { method: 'POST', json: { note: '', expects: 1 } })).status).toBe(200)
})
afterAll(async () => {
  await application?.stop()
  service.closeAllConnections()
  service.close()
})

const get = async (path: string, headers: Record<string, string>) => {
  const answer = await fetch(application.url + path, { headers })
  const [vary, keeping] = ['vary', 'cache-control'].map(name => answer.headers.get(name) ?? '')
  return { isNear: (await answer.text()).includes('Near enough.'), vary: vary!.toLowerCase(), keeping: keeping! }
}

it('says so in what may be kept, and gives each what is theirs, however often the other asked before', async () => {
  for (const [path, header, near, far] of [
    ['/by-language', 'accept-language', 'de', 'en'],
    ['/by-country', 'x-country', 'DE', 'IE'],
  ] as const)
    for (let turn = 0; turn < 2; turn++)
      for (const [value, expected] of [
        [near, true],
        [far, false],
      ] as const) {
        const { isNear, vary, keeping } = await get(path, { [header]: value })
        expect([path, value, isNear]).toEqual([path, value, expected])
        if (/public/.test(keeping)) expect([path, vary.split(/,\s*/)]).toEqual([path, expect.arrayContaining([header])])
      }
})
