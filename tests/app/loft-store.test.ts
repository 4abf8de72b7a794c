import { createPinia, setActivePinia } from 'pinia'
import { afterAll, afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useLoft } from '../../app/loft/core/loft'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import type { Level } from '../../core/rulebook/people-rules'
import type { Rulebook } from '../../core/rulebook/rulebook'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { actions } from '../../server/actions/actions'
import type { AnyDb, Connection } from '../../server/db/database'
import { inTransaction } from '../../server/db/turn'
import { problemOf } from '../../server/problem'
import { asSystem, saveEntry } from '../../server/services/editions/entries'
import { publish } from '../../server/services/editions/publish'
import { freshDatabase } from '../support/database'
import { bookAt, contentsOf, ines, keeperOf, liveRules } from '../support/world'
import './core-here'

const mako = { id: 'p-mako', name: 'Mako' }

/** The actions of the server, over a database of its own, as the console hears them by HTTP. */
class Server {
  calls: string[] = []
  /** Answers wait here until they are let go, in any order; null: nothing waits. */
  held: (() => void)[] | null = null
  private constructor(
    readonly site: Connection,
    private readonly rules: Awaited<ReturnType<typeof liveRules>>,
  ) {}
  static async start(): Promise<Server> {
    const site = await freshDatabase('demo')
    return new Server(site, await liveRules(site))
  }

  readonly book = (): Promise<Rulebook> => bookAt(this.site.db)

  /** Somebody else's change. */
  async put(body: Level): Promise<void> {
    const { db } = this.site
    const { id, revision } = (await contentsOf(this.site)).get('level', body.id)!
    const change = { kind: 'level' as const, key: body.id, body, expects: { id, revision } }
    await inTransaction(db, tx => saveEntry(tx, { ...change, actor: mako, permit: asSystem }))
  }

  private async work(method: string, path: string, body: unknown): Promise<unknown> {
    const { db } = this.site
    const [what, kind = '', key = '', undo] = path.split('/')
    if (what === 'publish') {
      const { note, expects } = body as { note: string; expects: number }
      return { edition: await publish(db, { note, expects, actor: ines, authorise: () => Promise.resolve() }) }
    }
    const name = what === 'start' ? 'GET start' : `${method} entries/:kind/:key${undo ? '/undo' : ''}`
    const action = actions[name as 'PUT entries/:kind/:key']
    if (!action) throw new Error(`The server has no ${name}.`)
    const decider = new CompiledDecider(this.rules, { person: { id: ines.id, name: ines.name } }, Date.now())
    const asked = { ...keeperOf(this.rules), decider, actor: ines, params: { kind, key } }
    const run = async (at: AnyDb): Promise<unknown> =>
      action.run({ ...asked, input: action.input?.parse(body), db: at } as never)
    return what === 'start' ? run(db) : inTransaction(db, run)
  }

  async answer(path: string, { method = 'GET', body }: RequestInit = {}): Promise<Response> {
    const asked = path.replace('/api/loft/', '')
    this.calls.push(`${method} ${asked}`)
    const done = await this.work(method, asked, JSON.parse((body as string | undefined) ?? '{}')).then(
      answer => Response.json(answer),
      (error: unknown) => {
        const problem = problemOf(error)
        if (!problem) throw error
        return Response.json(problem.body(), { status: problem.statusCode })
      },
    )
    // What stands now is what is answered, however late the answer arrives.
    if (this.held) await new Promise<void>(resolve => this.held!.push(resolve))
    return done
  }
}

let server: Server
beforeEach(async () => {
  server = await Server.start()
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
  vi.stubGlobal('fetch', (path: string, init?: RequestInit) => server.answer(path, init))
  setActivePinia(createPinia())
})
afterEach(async () => {
  vi.useRealTimers()
  await server.site.close()
})
afterAll(() => vi.unstubAllGlobals())

const nameOf = (book: Rulebook, id: string) => book.levels?.find(level => level.id === id)?.name
const kept = async (id: string) => nameOf(await server.book(), id)
const [guildLevel, makerLevel] = ['guild', 'maker'].map(id => wexlowRulebook.levels!.find(one => one.id === id)!) as [
  Level,
  Level,
]
const guild = (name: string): Level => ({ ...guildLevel, name })
const maker = (name: string): Level => ({ ...makerLevel, name })
async function opened() {
  const loft = useLoft()
  await loft.load()
  expect(loft.failure).toBe('')
  server.calls = []
  return loft
}
/** Whoever typed waits until what they typed is sent and answered. */
async function pause(loft: ReturnType<typeof useLoft>) {
  await vi.advanceTimersByTimeAsync(1000)
  await loft.settled()
}
/** As long, while answers are held: until so many of them wait. */
async function pauseHeld(count: number) {
  await vi.advanceTimersByTimeAsync(1000)
  await vi.waitFor(() => expect(server.held).toHaveLength(count))
}
function letGo() {
  const waiting = server.held!
  server.held = null
  for (const go of waiting) go()
}

describe('what is typed', () => {
  it('shows at once, is saved once after a pause, and is then in the draft', async () => {
    const loft = await opened()
    for (const name of ['G', 'Gu', 'Guilders']) loft.change('level', 'guild', guild(name))
    expect(nameOf(loft.draft, 'guild')).toBe('Guilders')
    expect(server.calls).toEqual([])
    expect(loft.hasUnsaved()).toBe(true)
    await pause(loft)
    expect(server.calls).toEqual(['PUT entries/level/guild'])
    expect(loft.hasUnsaved()).toBe(false)
    expect(loft.changes.map(one => [one.key, one.changedBy])).toEqual([['guild', 'Ines Varga']])
    expect(await kept('guild')).toBe('Guilders')
  })

  it('stays through a reading of the rules that was asked before it was saved', async () => {
    const loft = await opened()
    await server.put(maker('Makers'))
    loft.change('level', 'guild', guild('Guilders'))
    await loft.load()
    expect([nameOf(loft.draft, 'guild'), nameOf(loft.draft, 'maker')]).toEqual(['Guilders', 'Makers'])
    await pause(loft)
    expect(await kept('guild')).toBe('Guilders')
  })

  it('while a save is under way follows it, against the version that save made', async () => {
    const loft = await opened()
    server.held = []
    loft.change('level', 'guild', guild('One'))
    await pauseHeld(1)
    loft.change('level', 'guild', guild('Two'))
    await vi.advanceTimersByTimeAsync(1000)
    letGo()
    await pause(loft)
    expect(server.calls.filter(call => call.startsWith('PUT'))).toHaveLength(2)
    expect([nameOf(loft.draft, 'guild'), await kept('guild'), loft.conflict]).toEqual(['Two', 'Two', null])
  })

  it('is sent at once before publishing, and nothing is published while something is not saved', async () => {
    const loft = await opened()
    loft.change('level', 'guild', guild('Guilders'))
    expect(await loft.publish('note')).toBe(2)
    expect(server.calls[0]).toBe('PUT entries/level/guild')
    expect(nameOf(await bookAt(server.site.db, 2), 'guild')).toBe('Guilders')
    loft.change('level', 'guild', { id: 'guild' })
    await expect(loft.publish('note')).rejects.toThrow('see to that first')
    expect(server.calls.filter(call => call === 'POST publish')).toHaveLength(1)
  })
})

describe('what is refused', () => {
  it('stays as typed and says why, until it is mended or let go', async () => {
    const loft = await opened()
    loft.change('level', 'guild', { ...guildLevel, rank: makerLevel.rank })
    await pause(loft)
    expect(loft.refused).toEqual({ 'level guild': expect.stringContaining('rank') })
    await loft.load()
    const rankOf = () => loft.draft.levels?.find(level => level.id === 'guild')?.rank
    expect(rankOf()).toBe(makerLevel.rank)
    await loft.drop('level guild')
    expect([rankOf(), loft.refused, loft.hasUnsaved()]).toEqual([guildLevel.rank, {}, false])
  })

  it('is put back when it was a removal', async () => {
    const loft = await opened()
    loft.change('level', 'guild', null)
    expect(nameOf(loft.draft, 'guild')).toBeUndefined()
    await pause(loft)
    expect([nameOf(loft.draft, 'guild'), loft.refused['level guild']]).toEqual(['Guild', 'Held by 1 person.'])
  })
})

describe('undoing', () => {
  it('ends with the live entry, though a save was still to come', async () => {
    const loft = await opened()
    loft.change('level', 'guild', guild('Saved'))
    await pause(loft)
    loft.change('level', 'guild', guild('Still typed'))
    await loft.undo('level', 'guild')
    await pause(loft)
    expect([nameOf(loft.draft, 'guild'), loft.changes, await kept('guild')]).toEqual(['Guild', [], 'Guild'])
  })

  it('ends with the live entry, though a save was under way', async () => {
    const loft = await opened()
    server.held = []
    loft.change('level', 'guild', guild('Under way'))
    await pauseHeld(1)
    const undone = loft.undo('level', 'guild')
    letGo()
    await undone
    await pause(loft)
    expect(server.calls.filter(call => !call.startsWith('GET'))).toEqual([
      'PUT entries/level/guild',
      'POST entries/level/guild/undo',
    ])
    expect([nameOf(loft.draft, 'guild'), loft.changes, await kept('guild')]).toEqual(['Guild', [], 'Guild'])
  })

  it('is not taken back by a slow answer to an earlier question', async () => {
    const loft = await opened()
    loft.change('level', 'guild', guild('Saved'))
    await pause(loft)
    server.held = []
    const slow = loft.load()
    await vi.waitFor(() => expect(server.held).toHaveLength(1))
    const [late] = server.held
    server.held = null
    await loft.undo('level', 'guild')
    late!()
    await slow
    expect([nameOf(loft.draft, 'guild'), loft.changes]).toEqual(['Guild', []])
  })
})

describe('two keepers at one entry', () => {
  const met = async () => {
    const loft = await opened()
    await server.put(guild('Theirs'))
    loft.change('level', 'guild', guild('Mine'))
    await pause(loft)
    return loft
  }

  it('are told, and nothing is lost of either meanwhile', async () => {
    const loft = await met()
    expect(loft.conflict).toMatchObject({
      key: 'guild',
      mine: { name: 'Mine' },
      theirs: { body: { name: 'Theirs' }, changedBy: 'Mako' },
    })
    await loft.load()
    expect([nameOf(loft.draft, 'guild'), await kept('guild')]).toEqual(['Mine', 'Theirs'])
  })

  it.each([
    ['mine', 'Mine'],
    ['theirs', 'Theirs'],
  ] as const)('end with %s when that is chosen', async (which, name) => {
    const loft = await met()
    await loft.settle(which)
    expect([nameOf(loft.draft, 'guild'), await kept('guild'), loft.conflict, loft.hasUnsaved()]).toEqual([
      name,
      name,
      null,
      false,
    ])
  })

  it('meet one after the other when there are several', async () => {
    const loft = await met()
    await server.put(maker('Their makers'))
    loft.change('level', 'maker', maker('My makers'))
    await pause(loft)
    expect(loft.conflict?.key).toBe('guild')
    await loft.settle('theirs')
    expect(loft.conflict?.key).toBe('maker')
    await loft.settle('mine')
    expect([nameOf(loft.draft, 'guild'), nameOf(loft.draft, 'maker')]).toEqual(['Theirs', 'My makers'])
    expect([await kept('guild'), await kept('maker')]).toEqual(['Theirs', 'My makers'])
  })
})
