/** What breaks: servers, databases, networks and mail, one after the other. Nothing acknowledged is lost, nothing closed is shown, and it comes back by itself. `BRAVIK_FAULTS=long` goes on for longer. */
import { spawn, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it, onTestFinished } from 'vitest'
import { freePort } from '../../scripts/ports.mjs'
import { startPostgres } from '../../scripts/postgres.mjs'
import { prepare, temporaryFolder } from '../../scripts/steps.mjs'
import { startMailStandIn } from '../../server/services/mail/mail-stand-in'
import { requestLimits } from '../../server/db/database'
import { mailOut } from '../../server/db/schema'
import { freshDatabaseUrl } from '../support/database'
import { serve as serveDatabase, signedIn, startApplication, testSecret } from '../support/application'
import type { Application } from '../support/application'
import type { Serving } from '../../scripts/serving.mjs'
import { lineTo } from '../support/line'

const long = process.env.BRAVIK_FAULTS === 'long'
const rounds = long ? 12 : 1
const root = fileURLToPath(new URL('../..', import.meta.url))

/** The server that stays up while others break. */
let site: Application
beforeAll(async () => {
  site = await startApplication()
})
afterAll(() => site.stop())

const soon = (ms: number) => new Promise(resolve => setTimeout(resolve, ms))
function signal(): { given: Promise<void>; give: () => void } {
  let give = () => {}
  const given = new Promise<void>(resolve => {
    give = resolve
  })
  return { given, give }
}

/** Whether a request was taken and not answered in time, rather than refused. */
const isWaiting = (error: Error) => error.name === 'TimeoutError'

/** A server of its own on a database, killed with the test at the latest. */
async function serve(databaseUrl: string): Promise<Serving> {
  const server = await serveDatabase(databaseUrl, { BRAVIK_LOG_LEVEL: 'fatal' })
  onTestFinished(server.kill)
  return server
}

async function until(holds: () => Promise<boolean>, ms: number): Promise<void> {
  const start = performance.now()
  while (!(await holds())) {
    if (performance.now() - start > ms) throw new Error(`It did not come true within ${ms} ms.`)
    await soon(50)
  }
}

/** Whether the server shows a page. A connection kept from before may have been let go by the server while this process was busy: that is asked again, as a browser does. */
const isShown = (url: string) =>
  fetch(`${url}/visit`).then(
    answer => answer.status === 200,
    () => false,
  )

/** Writes notes about a person until told to stop; answers those that were acknowledged. */
function writing(write: (text: string) => Promise<boolean>): { some(): Promise<unknown>; stop(): Promise<string[]> } {
  const acknowledged: string[] = []
  let on = true
  const done = (async () => {
    for (let i = 0; on; i++) {
      const text = `note ${i} ${Math.random()}`
      if (await write(text).catch(() => false)) acknowledged.push(text)
      await soon(5)
    }
  })()
  return {
    some: () => until(async () => acknowledged.length > 5, 40_000),
    stop: async () => {
      on = false
      await done
      return acknowledged
    },
  }
}
const noteBy = (ines: Awaited<ReturnType<typeof signedIn>>) => async (text: string) =>
  (await ines('/api/loft/people/p-pia/notes', { method: 'POST', json: { text }, signal: AbortSignal.timeout(8000) })).ok

describe('a server killed while it writes', () => {
  it('has lost nothing it acknowledged, and another goes on', async () => {
    for (let round = 0; round < rounds; round++) {
      const server = await serve(site.database.url)
      const writer = writing(noteBy(await signedIn(server.url, 'ines')))
      await writer.some()
      server.kill()
      const written = await writer.stop()
      expect(written.length).toBeGreaterThan(5)
      const kept = new Set((await site.database.sql`select text from person_note`).map(row => row.text as string))
      expect(written.filter(text => !kept.has(text))).toEqual([])
      expect((await fetch(`${site.url}/visit`)).status).toBe(200)
    }
  })
})

describe('a database killed while it is written to', () => {
  it(
    'keeps what was acknowledged; meanwhile visitors are told soon, in words; then it goes on by itself',
    async () => {
      const folder = temporaryFolder('faults')
      let database = await startPostgres(folder)
      onTestFinished(() => {
        database.stop()
        rmSync(folder, { recursive: true, force: true })
      })
      // The server keeps one address while the database comes back on another port.
      const line = await movingLine(database.url)
      onTestFinished(() => line.close())
      prepare(database.url, { BRAVIK_SECRET: testSecret })
      const { url } = await serve(line.url)
      for (let round = 0; round < rounds; round++) {
        const ines = await signedIn(url, 'ines')
        const writer = writing(noteBy(ines))
        await writer.some()
        spawnSync('kill', ['-9', String(database.pid)])
        const written = await (await soon(300), writer.stop())
        const start = performance.now()
        const away = await fetch(`${url}/visit`, { headers: { accept: 'text/html' } })
        expect([away.status, away.headers.get('content-type'), away.headers.has('retry-after')]).toEqual([
          503,
          'text/html;charset=utf-8',
          true,
        ])
        expect(performance.now() - start).toBeLessThan(7000)
        await soon(6000)
        const again = performance.now()
        const [page, session] = await Promise.all([fetch(`${url}/visit`), fetch(`${url}/api/session`)])
        expect([page.status, session.status, session.headers.get('content-type')]).toEqual([
          503,
          503,
          'application/problem+json',
        ])
        expect(performance.now() - again).toBeLessThan(2500)
        expect((await fetch(`${url}/health`)).status).toBe(200)
        expect((await fetch(`${url}/ready`)).status).toBe(503)
        database = await startPostgres(folder)
        line.moveTo(database.url)
        await until(() => isShown(url), 15_000)
        const sql = postgres(database.url, { max: 1 })
        const kept = new Set((await sql`select text from person_note`).map(row => row.text as string))
        await sql.end()
        expect(written.filter(text => !kept.has(text))).toEqual([])
      }
    },
    long ? 1_800_000 : 240_000,
  )

  async function movingLine(databaseUrl: string) {
    const { connect, createServer } = await import('node:net')
    let port = Number(new URL(databaseUrl).port)
    const server = createServer(near => {
      const far = connect(port, '127.0.0.1')
      near.on('error', () => far.destroy()).on('close', () => far.destroy())
      far.on('error', () => near.destroy()).on('close', () => near.destroy())
      near.pipe(far).pipe(near)
    })
    await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
    const url = new URL(databaseUrl)
    url.port = String((server.address() as { port: number }).port)
    return {
      url: url.href,
      moveTo: (other: string) => {
        port = Number(new URL(other).port)
      },
      close: async () => void server.close(),
    }
  }
})

describe('a second server', () => {
  it('whose listener is deaf does not go on showing a page that was closed', async () => {
    const line = await lineTo(site.database.url)
    onTestFinished(() => line.close())
    const second = await serve(line.url)
    const ines = await signedIn(site.url, 'ines')
    const status = async (url: string) => (await fetch(`${url}/visit/ferry`, { redirect: 'manual' })).status
    line.freeze('bravik listen')
    expect(await status(second.url)).toBe(200)
    let edition = 1
    for (let round = 0; round < rounds; round++) {
      const { versions } = (await (await ines('/api/loft/start')).json()) as {
        versions: { kind: string; key: string; id: number; revision: number }[]
      }
      const seen = versions.find(one => one.kind === 'gate' && one.key === 'ferry')
      const put = await ines('/api/loft/entries/gate/ferry', {
        method: 'PUT',
        json: {
          body: { id: 'ferry', on: { page: 'ferry' }, open: { nobody: true }, note: `round ${round}` },
          expects: seen ? { id: seen.id, revision: seen.revision } : null,
        },
      })
      expect(put.status).toBe(200)
      expect((await ines('/api/loft/publish', { method: 'POST', json: { note: '', expects: edition++ } })).status).toBe(
        200,
      )
      // A request that begins 250 ms and more after the publishing sees it, however long it takes.
      await soon(300)
      expect(await status(second.url)).toBe(404)
      expect(await status(site.url)).toBe(404)
    }
  })

  it('cut off from the database shows nothing for long, and says so soon', async () => {
    const line = await lineTo(site.database.url)
    onTestFinished(() => line.close())
    const second = await serve(line.url)
    const slowest = async (count: number) => {
      const times = await Promise.all(
        Array.from({ length: count }, async () => {
          const start = performance.now()
          const { status } = await fetch(`${second.url}/visit`)
          return { status, ms: performance.now() - start }
        }),
      )
      return { statuses: new Set(times.map(one => one.status)), ms: Math.max(...times.map(one => one.ms)) }
    }
    line.freeze()
    const first = await slowest(20)
    expect(first.ms).toBeLessThan(9000)
    await soon(5200)
    const later = await slowest(20)
    expect([later.statuses, later.ms < 1500]).toEqual([new Set([503]), true])
    line.thaw()
    await until(() => isShown(second.url), 15_000)
  })
})

describe('one waiting lock', () => {
  it('on what is written beside the pages stops none of them', async () => {
    // The first page of a process compiles what it needs, which on a busy machine takes seconds.
    await fetch(`${site.url}/visit`)
    const admin = postgres(site.database.url, { max: 1 })
    const [isLocked, letGo] = [signal(), signal()]
    const held = admin.begin(async sql => {
      await sql`lock table activity in access exclusive mode`
      isLocked.give()
      await letGo.given
    })
    await isLocked.given
    // All are answered while the lock is held: none can have waited for its end, nor for its own patience to end.
    const times: number[] = []
    const visitor = async () => {
      for (let i = 0; i < 15; i++) {
        const start = performance.now()
        const { status } = await fetch(`${site.url}/visit`)
        times.push(status === 200 ? performance.now() - start : Number.POSITIVE_INFINITY)
      }
    }
    await Promise.all([visitor(), visitor(), visitor(), visitor()])
    letGo.give()
    await held
    expect(Math.max(...times)).toBeLessThan(requestLimits.lockMs)
    await admin.end()
  })
})

describe('starting', () => {
  it('loads while the database is being prepared, and answers nobody before that is said to be done', async () => {
    const [url, port] = [await freshDatabaseUrl(), String(await freePort())]
    const server = spawn(process.execPath, [join(root, '.output/server/index.mjs')], {
      env: {
        ...process.env,
        ...{ DATABASE_URL: url, BRAVIK_SECRET: testSecret, BRAVIK_PREPARING: 'beside', BRAVIK_LOG_LEVEL: 'fatal' },
        ...{ PORT: port, HOST: '127.0.0.1', NITRO_PORT: port, NITRO_HOST: '127.0.0.1' },
      },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    })
    onTestFinished(() => void server.kill('SIGKILL'))
    const address = `http://127.0.0.1:${port}`
    let answered = 0
    const ask = () => fetch(`${address}/visit`).then(answer => ((answered = answer.status), true))
    // Nobody listens yet: asked again until somebody does, and then it waits.
    const page = until(() => ask().catch(() => false), 90_000)
    await until(() => fetch(`${address}/health`, { signal: AbortSignal.timeout(300) }).then(Boolean, isWaiting), 60_000)
    expect(answered).toBe(0)
    prepare(url, { BRAVIK_SECRET: testSecret })
    await soon(300)
    expect([answered, server.exitCode]).toEqual([0, null])
    server.send('prepared')
    await page
    expect(answered).toBe(200)
  })
})

describe('starting twice', () => {
  const start = (env: Record<string, string>) => {
    const child = spawn(process.execPath, [join(root, 'scripts/start.mjs')], {
      cwd: root,
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    })
    let said = ''
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (data: Buffer) => {
        said += data.toString()
      })
    const ended = new Promise<number>(resolve =>
      child.once('exit', (code, signal) => resolve(signal ? -1 : (code ?? -1))),
    )
    return { child, said: () => said, ended }
  }

  /** A request the server has begun to read, and whose end it waits for. */
  const begun = (url: string) =>
    new Promise<{ finish(body: string): Promise<number> }>((resolve, reject) => {
      const sent = request(url, {
        method: 'POST',
        headers: { 'content-type': 'application/json', expect: '100-continue', 'transfer-encoding': 'chunked' },
      })
      sent.once('error', reject)
      sent.once('continue', () =>
        resolve({
          finish: body =>
            new Promise((done, failed) => {
              sent.once('error', failed)
              sent.once('response', answer => done(answer.resume().statusCode!))
              sent.end(body)
            }),
        }),
      )
      sent.flushHeaders()
    })

  it(
    'on one folder, or one port, ends the second with a sentence and leaves the first alone; it stops with its requests done',
    async () => {
      const folder = mkdtempSync(join(tmpdir(), 'bravik-twice-'))
      spawnSync('chmod', ['755', folder])
      const [port, other] = [String(await freePort()), String(await freePort())]
      const first = start({ BRAVIK_DATA: folder, PORT: port, BRAVIK_LOG_LEVEL: 'fatal' })
      onTestFinished(async () => {
        first.child.kill('SIGKILL')
        rmSync(folder, { recursive: true, force: true })
      })
      await until(async () => first.said().includes('Bravik serves'), 90_000)
      const onFolder = start({ BRAVIK_DATA: folder, PORT: other })
      expect([await onFolder.ended, onFolder.said()]).toEqual([
        1,
        expect.stringMatching(/already runs on the data folder .* \(process \d+, http/),
      ])
      const onPort = start({ BRAVIK_DATA: `${folder}-2`, PORT: port })
      onTestFinished(() => rmSync(`${folder}-2`, { recursive: true, force: true }))
      expect([await onPort.ended, onPort.said()]).toEqual([
        1,
        expect.stringContaining(`Port ${port} of 127.0.0.1 is taken`),
      ])
      expect(onPort.said()).not.toContain('Bravik serves')
      expect((await fetch(`http://127.0.0.1:${port}/visit`)).status).toBe(200)
      // Started as root, the server has let go of it.
      const [server] = readFileSync(`/proc/${first.child.pid}/task/${first.child.pid}/children`, 'utf8')
        .trim()
        .split(' ')
      if (process.getuid?.() === 0)
        expect(/^Uid:\s+(\d+)/m.exec(readFileSync(`/proc/${server}/status`, 'utf8'))![1]).not.toBe('0')
      const { url } = JSON.parse(readFileSync(join(folder, 'running.json'), 'utf8')) as { url: string }
      const sql = postgres(url, { max: 1 })
      // Its role owns the tables and is no superuser.
      const [role] =
        await sql`select rolsuper, current_user as name, (select tableowner from pg_tables where tablename = 'person') as owner from pg_roles where rolname = current_user`
      expect([role!.rolsuper, role!.owner === role!.name]).toEqual([false, true])
      await sql.end()
      const underWay = await Promise.all(Array.from({ length: 5 }, () => begun(`http://127.0.0.1:${port}/api/session`)))
      first.child.kill('SIGTERM')
      await soon(300)
      expect(
        await Promise.all(underWay.map(one => one.finish('{"email":"pia@wexlow.example","password":"wexlow-demo"}'))),
      ).toEqual([200, 200, 200, 200, 200])
      expect(await first.ended).toBe(0)
    },
    long ? 1_800_000 : 240_000,
  )

  it('ends with a failure and the reason when the database it started dies', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'bravik-dies-'))
    spawnSync('chmod', ['755', folder])
    onTestFinished(() => rmSync(folder, { recursive: true, force: true }))
    const one = start({ BRAVIK_DATA: folder, PORT: String(await freePort()), BRAVIK_LOG_LEVEL: 'fatal' })
    await until(async () => one.said().includes('Bravik serves'), 90_000)
    const pid = readFileSync(join(folder, 'postgres/cluster/postmaster.pid'), 'utf8').split('\n')[0]!
    spawnSync('kill', ['-9', pid])
    expect([await one.ended, one.said()]).toEqual([1, expect.stringContaining(`PostgreSQL (process ${pid}) has died`)])
  }, 240_000)
})

describe('a mail server that is away', () => {
  it(
    'loses no mail: all of it arrives once it is back',
    async () => {
      const mailPort = await freePort()
      const site = await startApplication('demo', { BRAVIK_SMTP_URL: `smtp://127.0.0.1:${mailPort}` })
      onTestFinished(() => site.stop())
      const ask = (email: string) =>
        fetch(`${site.url}/forgot`, {
          method: 'POST',
          redirect: 'manual',
          headers: { 'content-type': 'application/x-www-form-urlencoded' },
          body: new URLSearchParams({ email }),
        })
      for (const email of [
        'fenn@wexlow.example',
        'mako@wexlow.example',
        'guda@wexlow.example',
        'tilde@wexlow.example',
        'isla@wexlow.example',
      ])
        await ask(email)
      await until(
        async () => (await site.database.db.select().from(mailOut)).filter(row => row.tries > 0).length === 5,
        15_000,
      )
      if (long) await soon(80_000)
      const standIn = await startMailStandIn(() => site.database.db, mailPort)
      onTestFinished(() => standIn.stop())
      await until(
        async () => (await site.database.db.select().from(mailOut)).every(row => row.state === 'sent'),
        long ? 200_000 : 45_000,
      )
      expect((await site.database.sql`select count(*)::int from mail_kept`)[0]!.count).toBe(5)
    },
    long ? 1_800_000 : 400_000,
  )
})
