import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Refusal } from '../../app/loft/core/loft-api'
import { useLoft } from '../../app/loft/core/loft'
import './loft-screen'
import { entriesOf, rulebookOf } from '../../core/rulebook/rulebook'
import type { Rulebook, RuleEntry } from '../../core/rulebook/rulebook'

/** A server as small as the store's questions: a draft of levels, versions, and what is live. */
class Server {
  live: Rulebook = {
    bravik: 'rulebook/1',
    levels: [
      { id: 'maker', name: 'Maker', rank: 10 },
      { id: 'guild', name: 'Guild', rank: 20 },
    ],
  }
  draft = new Map<string, { entry: RuleEntry; revision: number }>(
    entriesOf(this.live).map(entry => [`${entry.kind} ${entry.key}`, { entry, revision: 1 }]),
  )
  version = 0
  calls: string[] = []
  /** Answers wait here until they are let go, in any order; empty: nothing waits. */
  held: (() => void)[] | null = null
  refuse: Refusal | null = null

  /** The rules of the draft. */
  get book(): Rulebook {
    return rulebookOf([...this.draft.values()].map(({ entry }) => entry))
  }

  board() {
    const versions = entriesOf(this.live).map((entry, i) => ({ ...entry, position: i, id: 1, revision: 1 }))
    const names = new Set([...versions.map(nameOfVersion), ...this.draft.keys()])
    return {
      frame: { timezone: 'UTC', currency: 'EUR' },
      versions,
      changes: [...names].flatMap(name => this.changeOf(name) ?? []),
      edition: 1,
      draftVersion: this.version,
    }
  }

  changeOf(name: string) {
    const [kind, key] = name.split(' ') as ['level', string]
    const before = entriesOf(this.live).find(one => one.kind === kind && one.key === key)?.body ?? null
    const now = this.draft.get(name)
    const after = now?.entry.body ?? null
    if (JSON.stringify(before) === JSON.stringify(after)) return null
    const position = this.live.levels!.findIndex(level => level.id === key)
    return { kind, key, id: 1, revision: now?.revision ?? 1, position, before, after, changedBy: 'Mako', changedAt: '' }
  }

  /** What a change answers: what the draft says of it now. */
  private saved(name: string) {
    const [kind, key] = name.split(' ') as [string, string]
    const answer = {
      draftVersion: ++this.version,
      changed: [{ kind, key, change: structuredClone(this.changeOf(name)) }],
    }
    return () => answer
  }

  /** Somebody else's change. */
  put(key: string, body: object, revision = (this.draft.get(`level ${key}`)?.revision ?? 0) + 1) {
    this.version++
    this.draft.set(`level ${key}`, { entry: { kind: 'level', key, body }, revision })
  }

  /** What stands now is what is answered, however late the answer arrives. */
  answer(path: string, method: string, body?: { body?: object; expects?: { revision: number } | null }): () => unknown {
    this.calls.push(`${method} ${path}`)
    if (path === 'start') {
      const board = structuredClone(this.board())
      return () => board
    }
    if (path === 'publish') return () => ({ edition: 2 })
    const [, , key, undo] = path.split('/')
    const name = `level ${key}`
    if (this.refuse) {
      const refusal = this.refuse
      return () => {
        throw refusal
      }
    }
    const current = this.draft.get(name)
    if (undo) {
      const before = this.live.levels!.find(level => level.id === key)
      if (before) this.put(key!, before, 1)
      else this.draft.delete(name)
      return this.saved(name)
    }
    if ((body?.expects?.revision ?? null) !== (current?.revision ?? null)) {
      const theirs = current && { id: 1, revision: current.revision, body: current.entry.body, changedBy: 'Mako' }
      return () => {
        throw new Refusal('changed-meanwhile', 'Mako changed this while you were editing.', { current: theirs ?? null })
      }
    }
    if (method === 'DELETE') {
      this.draft.delete(name)
      return this.saved(name)
    }
    this.put(key!, body!.body!)
    return this.saved(name)
  }
}

let server: Server
/** Its answers over HTTP, as the console hears them. */
async function overHttp(path: string, { method = 'GET', body }: RequestInit = {}): Promise<Response> {
  const sent = body === undefined ? undefined : (JSON.parse(body as string) as { body?: object })
  const answer = server.answer(path.replace('/api/loft/', ''), method, sent)
  if (server.held) await new Promise<void>(resolve => server.held!.push(resolve))
  try {
    return Response.json(answer())
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
    const { code, message, extra } = error
    return Response.json({ type: `urn:bravik:problem:${code}`, detail: message, ...extra }, { status: 409 })
  }
}
beforeEach(() => {
  server = new Server()
  vi.useFakeTimers()
  vi.stubGlobal('fetch', overHttp)
  setActivePinia(createPinia())
})
afterEach(() => {
  vi.useRealTimers()
})

const nameOfVersion = ({ kind, key }: { kind: string; key: string }) => `${kind} ${key}`
const nameOf = (book: Rulebook, id: string) => book.levels?.find(level => level.id === id)?.name
const guild = (name: string) => ({ id: 'guild', name, rank: 20 })
const pause = () => vi.advanceTimersByTimeAsync(1000)
async function opened() {
  const loft = useLoft()
  await loft.load()
  server.calls = []
  return loft
}

describe('what is typed', () => {
  it('shows at once, is saved once after a pause, and is then in the draft', async () => {
    const loft = await opened()
    for (const name of ['G', 'Gu', 'Guilders']) loft.change('level', 'guild', guild(name))
    expect(nameOf(loft.draft, 'guild')).toBe('Guilders')
    expect(server.calls).toEqual([])
    expect(loft.hasUnsaved()).toBe(true)
    await pause()
    expect(server.calls).toEqual(['PUT entries/level/guild'])
    expect(loft.hasUnsaved()).toBe(false)
    expect(loft.changes).toHaveLength(1)
  })

  it('stays through a reading of the rules that was asked before it was saved', async () => {
    const loft = await opened()
    server.put('maker', { id: 'maker', name: 'Makers', rank: 10 })
    loft.change('level', 'guild', guild('Guilders'))
    await loft.load()
    expect([nameOf(loft.draft, 'guild'), nameOf(loft.draft, 'maker')]).toEqual(['Guilders', 'Makers'])
    await pause()
    expect(nameOf(server.book, 'guild')).toBe('Guilders')
  })

  it('while a save is under way follows it, against the version that save made', async () => {
    const loft = await opened()
    server.held = []
    loft.change('level', 'guild', guild('One'))
    await pause()
    loft.change('level', 'guild', guild('Two'))
    await pause()
    const waiting = server.held
    server.held = null
    for (const go of waiting) go()
    await pause()
    expect(server.calls.filter(call => call.startsWith('PUT'))).toHaveLength(2)
    expect([nameOf(loft.draft, 'guild'), nameOf(server.book, 'guild'), loft.conflict]).toEqual(['Two', 'Two', null])
  })

  it('is sent at once before publishing, and nothing is published while something is not saved', async () => {
    const loft = await opened()
    loft.change('level', 'guild', guild('Guilders'))
    expect(await loft.publish('note')).toBe(2)
    expect(server.calls[0]).toBe('PUT entries/level/guild')
    server.refuse = new Refusal('bad-input', 'A level needs a rank.', {})
    loft.change('level', 'guild', { id: 'guild' })
    await expect(loft.publish('note')).rejects.toThrow('see to that first')
    expect(server.calls.filter(call => call === 'POST publish')).toHaveLength(1)
  })
})

describe('what is refused', () => {
  it('stays as typed and says why, until it is mended or let go', async () => {
    const loft = await opened()
    server.refuse = new Refusal('bad-input', 'Ranks differ.', {})
    loft.change('level', 'guild', { id: 'guild', name: 'Guild', rank: 10 })
    await pause()
    expect(loft.refused).toEqual({ 'level guild': 'Ranks differ.' })
    await loft.load()
    expect(loft.draft.levels?.find(level => level.id === 'guild')?.rank).toBe(10)
    await loft.drop('level guild')
    expect([loft.draft.levels?.find(level => level.id === 'guild')?.rank, loft.refused, loft.hasUnsaved()]).toEqual([
      20,
      {},
      false,
    ])
  })

  it('is put back when it was a removal', async () => {
    const loft = await opened()
    server.refuse = new Refusal('in-use', 'Still used by gate “trade”.', {})
    loft.change('level', 'guild', null)
    expect(nameOf(loft.draft, 'guild')).toBeUndefined()
    await pause()
    expect([nameOf(loft.draft, 'guild'), loft.refused['level guild']]).toEqual(['Guild', 'Still used by gate “trade”.'])
  })
})

describe('undoing', () => {
  it('ends with the live entry, though a save was still to come', async () => {
    const loft = await opened()
    loft.change('level', 'guild', guild('Saved'))
    await pause()
    loft.change('level', 'guild', guild('Still typed'))
    await loft.undo('level', 'guild')
    await pause()
    expect([nameOf(loft.draft, 'guild'), loft.changes, nameOf(server.book, 'guild')]).toEqual(['Guild', [], 'Guild'])
  })

  it('ends with the live entry, though a save was under way', async () => {
    const loft = await opened()
    server.held = []
    loft.change('level', 'guild', guild('Under way'))
    await pause()
    const undone = loft.undo('level', 'guild')
    const waiting = server.held
    server.held = null
    for (const go of waiting) go()
    await undone
    await pause()
    expect(server.calls.filter(call => !call.startsWith('GET'))).toEqual([
      'PUT entries/level/guild',
      'POST entries/level/guild/undo',
    ])
    expect([nameOf(loft.draft, 'guild'), loft.changes]).toEqual(['Guild', []])
  })

  it('is not taken back by a slow answer to an earlier question', async () => {
    const loft = await opened()
    loft.change('level', 'guild', guild('Saved'))
    await pause()
    server.held = []
    const slow = loft.load()
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
    server.put('guild', guild('Theirs'))
    loft.change('level', 'guild', guild('Mine'))
    await pause()
    return loft
  }

  it('are told, and nothing is lost of either meanwhile', async () => {
    const loft = await met()
    expect(loft.conflict).toMatchObject({
      key: 'guild',
      mine: { name: 'Mine' },
      theirs: { revision: 2, body: { name: 'Theirs' } },
    })
    await loft.load()
    expect([nameOf(loft.draft, 'guild'), nameOf(server.book, 'guild')]).toEqual(['Mine', 'Theirs'])
  })

  it.each([
    ['mine', 'Mine'],
    ['theirs', 'Theirs'],
  ] as const)('end with %s when that is chosen', async (which, name) => {
    const loft = await met()
    await loft.settle(which)
    expect([nameOf(loft.draft, 'guild'), nameOf(server.book, 'guild'), loft.conflict, loft.hasUnsaved()]).toEqual([
      name,
      name,
      null,
      false,
    ])
  })

  it('meet one after the other when there are several', async () => {
    const loft = await met()
    server.put('maker', { id: 'maker', name: 'Their makers', rank: 10 })
    loft.change('level', 'maker', { id: 'maker', name: 'My makers', rank: 10 })
    await pause()
    expect(loft.conflict?.key).toBe('guild')
    await loft.settle('theirs')
    expect(loft.conflict?.key).toBe('maker')
    await loft.settle('mine')
    expect([nameOf(loft.draft, 'guild'), nameOf(loft.draft, 'maker')]).toEqual(['Theirs', 'My makers'])
  })
})
