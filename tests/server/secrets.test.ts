import { sql } from 'drizzle-orm'
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import fc from 'fast-check'
import type { Connection } from '../../server/db/database'
import { throttle } from '../../server/db/schema'
import { readEnvironmentAnew } from '../../server/environment'
import { Problem } from '../../server/problem'
import { hashPassword, passwordFits } from '../../server/services/secrets/passwords'
import { countTry, dropOldTries, forgetTries } from '../../server/services/secrets/throttle'
import { isSignature, newId, secret, signature } from '../../server/services/secrets/tokens'
import { makeWalkToken, readWalkToken } from '../../server/services/entrance/walk-token'
import { freshDatabase } from '../support/database'

const codeOf = (work: () => unknown) =>
  Promise.resolve()
    .then(work)
    .then(
      () => 'none',
      (error: unknown) => (error instanceof Problem ? error.code : (error as Error).message),
    )
const good = 'a secret of thirty-two letters or more'
const useSecret = (value: string) => {
  vi.stubEnv('BRAVIK_SECRET', value)
  readEnvironmentAnew()
}
beforeAll(() => useSecret(good))
afterAll(() => vi.unstubAllEnvs())

describe("a walk's token", () => {
  const pass = {
    session: 's-1',
    tier: 'Guild',
    visitor: { person: { id: 'tier-guild' }, levels: [{ level: 'guild', since: '2026-01-01T00:00:00Z' }] },
    draft: true,
    expires: 1000,
  }
  const read = (token: string, session: string | undefined = 's-1', nowMs = 0) =>
    codeOf(() => readWalkToken(token, session, nowMs))

  it('is read by the session that made it, until it ends', async () => {
    expect(readWalkToken(makeWalkToken(pass), 's-1', 999)).toEqual(pass)
    expect(await read(makeWalkToken(pass), 's-1', 1000)).toBe('token-expired')
    expect(await read(makeWalkToken(pass), 's-2')).toBe('bad-token')
    expect(await codeOf(() => readWalkToken(makeWalkToken(pass), undefined, 0))).toBe('bad-token')
  })

  it('is worth nothing once a single letter of it is another', () => {
    const token = makeWalkToken(pass)
    fc.assert(
      fc.property(fc.nat(token.length - 1), fc.constantFrom('A', 'b', '9', '.', '-', '~'), (at, letter) => {
        fc.pre(token[at] !== letter)
        const forged = token.slice(0, at) + letter + token.slice(at + 1)
        expect(() => readWalkToken(forged, 's-1', 0)).toThrow(Problem)
      }),
      { numRuns: 300 },
    )
  })

  it('is not made by whoever knows another secret, nor for another use', async () => {
    const body = Buffer.from(JSON.stringify({ ...pass, tier: 'Keeper' })).toString('base64url')
    expect(await read(`${body}.${signature('payment', body)}`)).toBe('bad-token')
    useSecret('another secret of thirty-two letters')
    const foreign = makeWalkToken(pass)
    useSecret(good)
    expect(await read(foreign)).toBe('bad-token')
    for (const odd of ['', '.', 'a', 'a.b', 'a.b.c', `${makeWalkToken(pass)}.x`])
      expect(await read(odd), odd).toBe('bad-token')
  })
})

describe('secrets', () => {
  it('are asked for at once when they are missing or short', () => {
    expect(() => useSecret('short')).toThrow('BRAVIK_SECRET is not right: At least 32 characters')
    useSecret('')
    expect(secret).toThrow('BRAVIK_SECRET must hold at least 32 characters')
    useSecret(good)
    expect(isSignature('walk', 'body', signature('walk', 'body'))).toBe(true)
    expect(isSignature('walk', 'body', signature('walk', 'body').slice(1))).toBe(false)
  })

  it('make ids that say nothing and do not meet', () => {
    const ids = new Set(Array.from({ length: 2000 }, () => newId('p')))
    expect(ids.size).toBe(2000)
    for (const id of ids) expect(id).toMatch(/^p-[a-z0-9]{12}$/)
  })

  it('of people are kept as salted hashes, fit only themselves, however the letters are composed', async () => {
    const [one, other] = await Promise.all([hashPassword('Ångström wool'), hashPassword('Ångström wool')])
    expect(one).not.toBe(other)
    expect(one).toMatch(/^scrypt\$131072\$8\$1\$/)
    expect(await passwordFits('Ångström wool'.normalize('NFD'), one)).toBe(true)
    expect(await passwordFits('ångström wool', one)).toBe(false)
    expect(await passwordFits('anything', null)).toBe(false)
  })
})

describe('tries', () => {
  let site: Connection & { url: string }
  beforeAll(async () => {
    site = await freshDatabase('bare')
  })
  afterAll(() => site.close())
  afterEach(() => vi.unstubAllEnvs())
  const limit = (of: string, most = 3) => ({ what: 'signIn', of, most, windowMs: 60_000 })
  const tried = (...limits: ReturnType<typeof limit>[]) => codeOf(() => countTry(site.db, limits, 'tries'))

  it('are counted per key, whatever its case and spaces, and kept as no more than a hash', async () => {
    for (const of of ['Ada@wool.example', ' ada@wool.example', 'ADA@WOOL.EXAMPLE '])
      expect(await tried(limit(of))).toBe('none')
    expect(await tried(limit('ada@wool.example'))).toBe('too-many-tries')
    expect(await tried(limit('bo@wool.example'))).toBe('none')
    expect(JSON.stringify(await site.db.select().from(throttle))).not.toContain('wool')
  })

  it('count against every limit, even when the first is passed', async () => {
    const [address, network] = [limit('cora@wool.example', 1), limit('192.0.2.1', 2)]
    expect([await tried(address, network), await tried(address, network), await tried(network)]).toEqual([
      'none',
      'too-many-tries',
      'too-many-tries',
    ])
  })

  it('are forgotten when the window is over, and when somebody got in', async () => {
    const own = limit('dirk@wool.example', 1)
    await tried(own)
    expect(await tried(own)).toBe('too-many-tries')
    await site.db.execute(sql`update throttle set until = now() - interval '1 second'`)
    expect(await tried(own)).toBe('none')
    await forgetTries(site.db, [own])
    expect(await tried(own)).toBe('none')
    await site.db.execute(sql`update throttle set until = now() - interval '1 second'`)
    await dropOldTries(site.db)
    expect(await site.db.select().from(throttle)).toEqual([])
  })

  it('of many at once all count', async () => {
    const own = limit('elin@wool.example', 10)
    const answers = await Promise.all(Array.from({ length: 40 }, () => tried(own)))
    expect(answers.filter(answer => answer === 'none')).toHaveLength(10)
  })
})
