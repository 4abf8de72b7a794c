import type { H3Event } from 'h3'
import { afterEach, expect, it, vi } from 'vitest'
import { readEnvironmentAnew } from '../../server/environment'
import { addressOf, hostOf, isLoopback, isSecure, networkOf } from '../../server/forwarded'

const event = (headers: Record<string, string>, remoteAddress = '10.0.0.9') =>
  ({ node: { req: { headers, socket: { remoteAddress } } } }) as unknown as H3Event
const behind = (hops: number) => {
  vi.stubEnv('BRAVIK_TRUST_PROXY', String(hops))
  readEnvironmentAnew()
}
afterEach(() => {
  vi.unstubAllEnvs()
  readEnvironmentAnew()
})

it.each<[number, string, string]>([
  // Without a trusted proxy nobody's word counts.
  [0, '198.51.100.7', '10.0.0.9'],
  [1, '198.51.100.7', '198.51.100.7'],
  // What stands left of it, whoever asks wrote.
  [1, '203.0.113.66, 198.51.100.7', '198.51.100.7'],
  [2, '203.0.113.66, 198.51.100.7, 10.0.0.1', '198.51.100.7'],
  [2, '203.0.113.66,1.1.1.1,  198.51.100.7 ,10.0.0.1', '198.51.100.7'],
  // It did not come through both.
  [2, '198.51.100.7', '10.0.0.9'],
  [1, '', '10.0.0.9'],
  [1, '198.51.100.7:4711', '198.51.100.7'],
  [1, '[2001:db8::1]:4711', '2001:db8::1'],
  [1, '::ffff:198.51.100.7', '198.51.100.7'],
])('behind %i trusted proxies “%s” was sent by %s', (hops, list, address) => {
  behind(hops)
  expect(addressOf(event({ 'x-forwarded-for': list }))).toBe(address)
})

it('is nobody in particular where a proxy writes what is no address', () => {
  behind(1)
  expect(addressOf(event({ 'x-forwarded-for': 'unknown' }))).toBeUndefined()
})

it("counts a subscriber's IPv6 network as one", () => {
  behind(1)
  const network = (address: string) => networkOf(event({ 'x-forwarded-for': address }))
  expect(network('2001:db8:1:2:3:4:5:6')).toBe(network('2001:db8:1:2:ffff::1'))
  expect(network('2001:db8:1:2::1')).not.toBe(network('2001:db8:1:3::1'))
  expect(network('192.0.2.1')).toBe('192.0.2.1')
})

it('takes name and scheme from the outermost trusted proxy, and only from one', () => {
  const headers = { host: 'inner', 'x-forwarded-host': 'evil.example, mill.example', 'x-forwarded-proto': 'https' }
  behind(0)
  expect([hostOf(event(headers)), isSecure(event(headers))]).toEqual(['inner', false])
  behind(1)
  expect([hostOf(event(headers)), isSecure(event(headers))]).toEqual(['mill.example', true])
})

it('knows loopback from what a proxy on this machine passed on', () => {
  expect([
    isLoopback(event({}, '127.0.0.1')),
    isLoopback(event({}, '::1')),
    isLoopback(event({ 'x-forwarded-for': '127.0.0.1' }, '127.0.0.1')),
    isLoopback(event({}, '10.0.0.1')),
  ]).toEqual([true, true, false, false])
})
