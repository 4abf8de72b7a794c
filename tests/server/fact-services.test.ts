import { createServer } from 'node:http'
import type { RequestListener, Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { readFileSync } from 'node:fs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import { CompiledRules } from '../../core/gates/compiled'
import { PlainDecider } from '../../core/gates/plain-decider'
import type { Rulebook } from '../../core/rulebook/rulebook'
import { readEnvironmentAnew } from '../../server/environment'
import { readNetworkFile, whereaboutsOf } from '../../server/services/facts/network-country'
import { askService } from '../../server/services/facts/services'
import type { ServiceFact } from '../../server/services/facts/services'
import { settled } from '../../server/services/facts/settled'
import { startServiceStandIn } from '../../server/services/facts/service-stand-in'
import { demoFile } from '../../scripts/network-file'
import { wexlowSite } from '../support/wexlow-site'

/** A service whose answers a test chooses, and how often it was asked. */
let server: Server
let answers: Record<string, RequestListener> = {}
let asked: string[] = []
beforeAll(async () => {
  server = createServer((request, response) => {
    asked.push(request.url!)
    const answer = answers[request.url!.split('?')[0]!]
    if (answer) answer(request, response)
    else response.writeHead(404).end()
  })
  await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
  const { port } = server.address() as AddressInfo
  process.env.BRAVIK_FACT_SERVICES = `desk=http://127.0.0.1:${port},gone=http://127.0.0.1:1`
  readEnvironmentAnew()
})
afterAll(async () => {
  delete process.env.BRAVIK_FACT_SERVICES
  readEnvironmentAnew()
  server.closeAllConnections()
  await new Promise(resolve => server.close(resolve))
})
const says =
  (body: string, status = 200): RequestListener =>
  (_, response) =>
    response.writeHead(status, { 'content-type': 'application/json' }).end(body)
const fact = (path: string, more: Partial<ServiceFact['from']> = {}): ServiceFact => ({
  id: 'wheels',
  type: 'number',
  from: { service: 'desk', path, at: '/wheels', ...more },
})
const guda = { email: 'guda@wexlow.example' }

describe('a service outside', () => {
  it('is asked once while its answer is kept, and once by many at the same time', async () => {
    answers = { '/kept': says('{"wheels": 2}') }
    asked = []
    const all = await Promise.all([1, 2, 3].map(() => askService(fact('/kept?of={email}'), guda)))
    expect(all.map(one => one.value)).toEqual([2, 2, 2])
    await askService(fact('/kept?of={email}'), guda)
    expect(asked).toEqual(['/kept?of=guda%40wexlow.example'])
    await askService(fact('/kept?of={email}'), guda, true)
    expect(asked.length).toBe(2)
  })

  it.each<[string, RequestListener, string]>([
    ['hangs', () => {}, 'too-slow'],
    ['drips', (_, response) => void response.writeHead(200).write('{'), 'too-slow'],
    ['answers nonsense', says('wheels: two'), 'no-json'],
    ['answers an error', says('{"wheels": 2}', 500), 'status'],
    ['leads elsewhere', (_, response) => response.writeHead(302, { location: '/kept' }).end(), 'unreachable'],
    ['answers ten megabytes', says(`{"wheels": 2, "more": "${'x'.repeat(10_000_000)}"}`), 'too-large'],
    ['knows nothing', says('{}'), 'nothing-there'],
    ['answers something else', says('{"wheels": "many"}'), 'no-fit'],
    ['breaks off', (_, response) => response.destroy(), 'unreachable'],
  ])('that %s makes it unknown, soon', async (what, answer, why) => {
    const path = `/${what.replaceAll(' ', '-')}`
    answers = { [path]: answer }
    const start = performance.now()
    expect(await askService(fact(path, { withinMs: 200 }), guda)).toMatchObject({ value: undefined, why })
    expect(performance.now() - start).toBeLessThan(1500)
    // While it fails it is not asked by every visitor.
    asked = []
    expect(await askService(fact(path, { withinMs: 200 }), guda)).toMatchObject({ why })
    expect(asked).toEqual([])
  })

  it('that is not set up, or not reached, or of somebody it knows nothing to ask about, is unknown', async () => {
    const other = (service: string) => askService(fact('/w', { service }), guda)
    expect(await other('nowhere')).toMatchObject({ why: 'no-service' })
    expect(await other('gone')).toMatchObject({ why: 'unreachable' })
    asked = []
    expect(await askService(fact('/w?of={email}'), {})).toMatchObject({ why: 'not-known' })
    expect(asked).toEqual([])
  })

  it('bundled with the demo answers what it knows', async () => {
    const standIn = await startServiceStandIn()
    const read = async (of: string) => (await fetch(`${standIn.url}/wheels?of=${of}`)).json()
    expect(await read('guda@wexlow.example')).toEqual({ wheels: 2 })
    expect(await read('nobody@x.example')).toEqual({ wheels: 0 })
    await standIn.stop()
  })
})

describe('a decision with what services say', () => {
  const book = (open: object): Rulebook => ({
    bravik: 'rulebook/1',
    facts: [
      { id: 'wheels', name: 'Wheels', type: 'number', from: fact('/w?of={email}').from },
      { id: 'reels', name: 'Reels', type: 'number', from: fact('/none', { at: '/reels' }).from },
      { id: 'looms', name: 'Looms', type: 'number', from: fact('/l', { at: '/looms' }).from },
    ],
    gates: [{ id: 'g', on: { page: 'visit' }, open: open as never }],
  })
  const decide = async (open: object, page = 'visit', person: object | null = { id: 'p', email: guda.email }) => {
    asked = []
    const rules = new CompiledRules(book(open), wexlowSite)
    const first = new CompiledDecider(rules, { person: person as never }, Date.parse('2026-11-26T10:00:00Z'))
    const { result, decider } = await settled(first, async one => one.decide({ kind: 'page', id: page }).open)
    // What the plain reading says of the same visitor.
    const plain = new PlainDecider(rules, decider.visitor, Date.parse('2026-11-26T10:00:00Z'))
    expect(plain.decide({ kind: 'page', id: page }).open).toBe(result)
    return result
  }
  const wheels = { fact: { name: 'wheels', atLeast: 1 } }
  const looms = { fact: { name: 'looms', atLeast: 1 } }

  it('asks only where a gate turns on it, again where one answer leads to another, and never of a guest it cannot name', async () => {
    answers = { '/w': says('{"wheels": 2}'), '/l': says('{"looms": 1}') }
    expect(await decide(wheels)).toBe(true)
    expect(asked).toHaveLength(1)
    expect(await decide(wheels, 'ferry')).toBe(true)
    expect(asked).toEqual([])
    expect(await decide({ all: [wheels, looms] })).toBe(true)
    expect(await decide(wheels, 'visit', null)).toBe(false)
    expect(asked).toEqual([])
  })

  it('refuses while it is unknown, under “not” too', async () => {
    answers = {}
    const unknown = { fact: { name: 'reels', is: 7 } }
    expect(await decide(unknown)).toBe(false)
    expect(await decide({ not: unknown })).toBe(false)
    expect(await decide({ any: [{ not: unknown }, { signedIn: true }] })).toBe(true)
  })
})

describe('the country of a network', () => {
  it('is read from the demo’s file, which is written as its script writes it', () => {
    const bytes = readFileSync('demo/files/networks.mmdb')
    expect(bytes.equals(demoFile())).toBe(true)
    readNetworkFile(bytes)
    expect(whereaboutsOf('127.0.2.7')).toEqual({ country: 'IE' })
    expect(whereaboutsOf('127.0.3.255')).toEqual({ country: 'ES', region: 'ES-CT' })
    for (const unknown of ['127.0.0.1', '192.0.2.1', '::1', 'nonsense', undefined])
      expect(whereaboutsOf(unknown)).toEqual({})
  })
})
