/** Debian's nginx in front: as a cache that all visitors share, and as the one that sends files it is handed. */
import { spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { freePort } from '../../scripts/ports.mjs'
import { temporaryFolder } from '../../scripts/steps.mjs'
import { cookieOf, startApplication } from '../support/application'
import type { Application } from '../support/application'
import { rawRequest } from '../support/raw-request'

let application: Application
let nginx: ChildProcess
let front: string
const folder = temporaryFolder('nginx')

beforeAll(async () => {
  application = await startApplication('demo', {
    BRAVIK_TRUST_PROXY: '1',
    BRAVIK_SHARED_SECONDS: '60',
    BRAVIK_HAND_OFF: '/handed/',
  })
  const port = await freePort()
  front = `http://127.0.0.1:${port}`
  for (const part of ['cache', 'body', 'proxy']) mkdirSync(join(folder, part))
  writeFileSync(
    join(folder, 'nginx.conf'),
    `${process.getuid?.() === 0 ? 'user root;' : ''} daemon off; pid ${folder}/pid; error_log stderr;
    events {}
    http {
      access_log off; client_body_temp_path ${folder}/body; proxy_temp_path ${folder}/proxy;
      proxy_cache_path ${folder}/cache keys_zone=site:10m;
      server {
        listen 127.0.0.1:${port};
        location / {
          proxy_pass ${application.url}; proxy_cache site; proxy_cache_key $request_method$request_uri;
          proxy_set_header Host $host; proxy_set_header X-Forwarded-For $remote_addr;
          add_header X-Cache $upstream_cache_status always;
        }
        location /handed/ { internal; alias ${process.env.BRAVIK_FILES}/; }
      }
    }`,
  )
  nginx = spawn('/usr/sbin/nginx', ['-p', folder, '-c', join(folder, 'nginx.conf')], { stdio: 'ignore' })
  while (!(await fetch(`${front}/health`).catch(() => null))?.ok) await new Promise(resolve => setTimeout(resolve, 50))
})
afterAll(async () => {
  nginx?.kill()
  await application?.stop()
  rmSync(folder, { recursive: true, force: true })
})
const ask = async (path: string, headers: Record<string, string> = {}) => {
  const answer = await fetch(front + path, { headers, redirect: 'manual' })
  return {
    status: answer.status,
    cache: answer.headers.get('x-cache'),
    text: await answer.text(),
    headers: answer.headers,
  }
}
const phone = 'Mozilla/5.0 (Linux; Android 14) Mobile'

describe('a cache that all visitors share', () => {
  it('answers for open pages itself, and never with another’s page', async () => {
    const who = ['guda', 'pia', 'stella@gullhaven.example', 'ines']
    const cookies = ['', ...(await Promise.all(who.map(one => cookieOf(application.url, one))))]
    const paths = [
      '/',
      '/visit',
      '/techniques/colour',
      '/techniques/gansey',
      '/trade',
      '/trade/prices',
      '/notes/woad-sowing',
      '/account',
      '/nowhere',
      '/files/harbour-cowl',
      '/feed',
      '/sitemap.xml',
    ]
    const own = new Map<string, string>()
    const name = (path: string, cookie: string, agent: string) => `${path} ${cookie} ${agent}`
    const times = (text: string) => text.replaceAll(/Signed in at[\s\S]*?<\/section>/g, '')
    for (const path of paths)
      for (const cookie of cookies)
        for (const agent of ['desktop', phone]) {
          const answer = await rawRequest(application.url, path, { headers: { cookie, 'user-agent': agent } })
          own.set(name(path, cookie, agent), `${answer.status} ${times(answer.text)}`)
        }
    const cached = new Set<string>()
    // Three times, each in another order, so that each meets what the others left.
    for (const round of [0, 1, 2])
      for (const path of paths)
        for (const [i] of cookies.entries())
          for (const agent of ['desktop', phone]) {
            const cookie = cookies[(i * 2 + round) % cookies.length]!
            const { status, text, cache } = await ask(path, { cookie, 'user-agent': agent })
            expect(`${status} ${times(text)}`, `${path} for ${cookie || 'a guest'}`).toBe(
              own.get(name(path, cookie, agent)),
            )
            if (cache === 'HIT') {
              cached.add(path)
              expect(cookie, path).toBe('')
            }
          }
    expect([...cached]).toEqual(expect.arrayContaining(['/', '/visit', '/techniques/colour', '/feed']))
    for (const path of ['/trade', '/trade/prices', '/nowhere']) expect(cached.has(path)).toBe(false)
  })

  it('keeps the guest’s page for guests once somebody signs in', async () => {
    const before = await ask('/techniques/colour')
    const guda = await ask('/techniques/colour', { cookie: await cookieOf(application.url, 'guda') })
    const after = await ask('/techniques/colour')
    expect([after.cache, after.text === before.text, guda.text.includes('Sign out')]).toEqual(['HIT', true, true])
    expect(after.text).not.toContain('Sign out')
  })
})

describe('files that are handed to it', () => {
  it('are sent by it, in ranges too, to whoever the site lets have them and to nobody by their place', async () => {
    const cookie = await cookieOf(application.url, 'guda')
    const link = (await ask('/fetch/harbour-cowl', { cookie })).headers.get('location')!
    const whole = await ask(link, { cookie })
    expect([whole.status, whole.headers.get('content-type'), whole.text.slice(0, 5)]).toEqual([
      200,
      'application/pdf',
      '%PDF-',
    ])
    expect(whole.headers.get('content-disposition')).toBe('attachment; filename="Harbour cowl.pdf"')
    const part = await ask(link, { cookie, range: 'bytes=0-4' })
    expect([part.status, part.text]).toEqual([206, '%PDF-'])
    expect((await ask(link)).status).toBe(403)
    // Where it would lie, as the site tells nginx: from outside it is no address.
    const direct = await fetch(application.url + link, { headers: { cookie } })
    const place = direct.headers.get('x-accel-redirect')!
    expect(place).toMatch(/^\/handed\/[0-9a-f]{2}\/[0-9a-f]{62}$/)
    expect((await ask(place, { cookie })).status).toBe(404)
  })
})
