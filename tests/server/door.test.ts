/** The way in: whom somebody looks at, what is counted at each station, and strangers who are made up. */
import { desc, eq } from 'drizzle-orm'
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import type { Connection } from '../../server/db/database'
import { mailKept, oneTimeLink, person } from '../../server/db/schema'
import { readEnvironmentAnew } from '../../server/environment'
import { useStandIn } from '../../server/mail-server'
import { Problem } from '../../server/problem'
import { flushActivity, record } from '../../server/services/activity/activity'
import { doorCounts } from '../../server/services/entrance/door-counts'
import { signIn } from '../../server/services/entrance/sessions'
import { confirmAddress, signUp } from '../../server/services/entrance/sign-up'
import type { SignUpWorld } from '../../server/services/entrance/sign-up'
import {
  dropOldStrangers,
  endStranger,
  makeStranger,
  readStranger,
  strangerTold,
} from '../../server/services/entrance/stranger'
import { confirmAgain } from '../../server/services/entrance/unconfirmed'
import { sendDueMail } from '../../server/services/mail/mail'
import { startMailStandIn } from '../../server/services/mail/mail-stand-in'
import { saveSettings } from '../../server/services/site/site-settings'
import { freshDatabase } from '../support/database'
import { defaultSettings, ines, liveRules } from '../support/world'

let site: Connection & { url: string }
let standIn: Awaited<ReturnType<typeof startMailStandIn>>
let world: SignUpWorld
beforeAll(async () => {
  site = await freshDatabase('demo')
  standIn = await startMailStandIn(() => site.db)
  useStandIn(standIn.url)
  world = { rules: await liveRules(site), settings: defaultSettings, nowMs: Date.now() }
})
afterAll(async () => {
  await standIn.stop()
  await site.close()
})
afterEach(() => site.db.delete(mailKept))

const settings = (part: Partial<SignUpWorld['settings']['sign-up']>): SignUpWorld => ({
  ...world,
  settings: { ...defaultSettings, 'sign-up': { ...defaultSettings['sign-up'], ...part } },
})
const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'none',
    (error: unknown) => (error instanceof Problem ? error.code : String(error)),
  )
const stranger = (email: string) => ({ name: 'Nell Orr', email, password: 'harbour lights', facts: {} })

/** Sends what waits, for real over SMTP, and answers the newest mail to an address. */
async function mailTo(email: string) {
  await sendDueMail(site.db)
  const [mail] = await site.db.select().from(mailKept).where(eq(mailKept.recipient, email)).orderBy(desc(mailKept.id))
  return mail && { ...mail, token: /token=([\w-]+)|invitation=([\w-]+)/.exec(mail.plain)?.slice(1).find(Boolean) ?? '' }
}
const trySignIn = (email: string, secret = 'harbour lights') =>
  signIn(site.db, { email, password: secret, network: '192.0.2.1' })

describe('whoever is new', () => {
  const door = () => doorCounts(site.db, { rules: world.rules, nowMs: Date.now() }, null)
  const tenSpindles = { fact: { name: 'spindles', atLeast: 10 } } as const
  const newcomerOf = (email: string, facts: Record<string, number>) => ({ ...stranger(email), facts })

  it('is looked at where a sentence is true of them, or not known to be false; the answer tells the same', async () => {
    const strict = settings({ lookAt: tenSpindles })
    for (const [email, facts, waits] of [
      ['few@orr.example', { spindles: 2 }, false],
      ['many@orr.example', { spindles: 12 }, true],
      ['unsaid@orr.example', {}, true],
    ] as const) {
      const { answer } = await signUp(site.db, strict, newcomerOf(email, facts))
      expect([email, answer]).toEqual([email, waits ? 'waiting' : 'can-sign-in'])
      expect(await codeOf(trySignIn(email))).toBe(waits ? 'waiting' : 'none')
    }
    // An address that is known is answered by what is typed, not by who it belongs to.
    for (const spindles of [2, 12]) {
      const known = await signUp(site.db, strict, newcomerOf('mako@wexlow.example', { spindles }))
      expect(known.answer).toBe(spindles < 10 ? 'can-sign-in' : 'waiting')
    }
  })

  it('is asked, and looked at, only by what can be known of them', async () => {
    const signUpSettings = defaultSettings['sign-up']
    const save = (changes: object) => saveSettings(site.db, 'sign-up', { ...signUpSettings, ...changes }, ines)
    const problemOf = (work: Promise<unknown>) =>
      work.then(
        () => null,
        (error: unknown) => (error instanceof Problem ? [error.reason, error.extra.at] : error),
      )
    const asks = (of: object) => ({ facts: [{ fact: 'spindles', required: true, of }] })
    expect(await problemOf(save({ lookAt: { level: { atLeast: 'gone' } } }))).toEqual([
      'unknown-in-sentence',
      '/lookAt/level/atLeast',
    ])
    expect(await problemOf(save({ lookAt: { country: { in: ['IE'] } } }))).toEqual(['not-known-at-door', '/lookAt'])
    expect(await problemOf(save(asks({ query: { name: 'from' } })))).toEqual(['not-known-at-door', '/facts/0/of'])
    expect(await problemOf(save(asks({ device: { in: ['phone'] } })))).toBeNull()
    const twice = { fact: 'spindles', required: false }
    expect(await problemOf(save({ facts: [twice, twice] }))).toEqual(['fact-asked-twice', '/facts/1/fact'])
    await save({})
  })

  it('is counted at each station, and sent another link at most once an hour', async () => {
    const before = await door()
    const strict = settings({ confirmByMail: true })
    const { personId } = await signUp(site.db, strict, stranger('lag@orr.example'))
    record({ kind: 'came', personId: null, tier: 'guest' })
    record({ kind: 'stopped', personId: null, tier: 'guest', detail: { at: 'password' } })
    record({ kind: 'signUp', personId: personId!, tier: 'guest' })
    await flushActivity(site.db)
    const first = (await mailTo('lag@orr.example'))!.token
    const after = await door()
    const gained = (key: 'came' | 'filled' | 'confirmed' | 'unconfirmed') => after[key] - before[key]
    expect([gained('came'), gained('filled'), gained('confirmed'), gained('unconfirmed')]).toEqual([1, 1, 0, 1])
    expect(after.stopped.find(one => one.at === 'password')!.count).toBeGreaterThan(0)

    expect((await confirmAgain(site.db, ines)).sent).toBe(0)
    await site.db.update(oneTimeLink).set({ expiresAt: new Date(Date.now() + 3_600_000) })
    expect((await confirmAgain(site.db, ines)).sent).toBeGreaterThan(0)
    const second = (await mailTo('lag@orr.example'))!.token
    expect(await codeOf(confirmAddress(site.db, strict, { token: first, password: 'harbour lights' }, {}))).toBe(
      'bad-token',
    )
    expect(await confirmAddress(site.db, strict, { token: second, password: 'harbour lights' }, {})).toHaveProperty(
      'session',
    )
  })

  it('and made up is known from nobody else but by an address where no mail goes, and is gone after', async () => {
    vi.stubEnv('BRAVIK_SECRET', 'a secret of at least thirty-two characters')
    readEnvironmentAnew()
    const pass = makeStranger('s-1', Date.now())
    expect(() => readStranger(pass.pass, 's-2', Date.now())).toThrow()
    expect(() => readStranger(`${pass.pass}x`, 's-1', Date.now())).toThrow()
    expect(() => readStranger(pass.pass, 's-1', Date.now() + 3_600_000)).toThrow()
    const read = readStranger(pass.pass, 's-1', Date.now())
    const strict = settings({ confirmByMail: true })
    const before = await door()
    await signUp(site.db, strict, stranger(pass.email))
    expect((await door()).unconfirmed).toBe(before.unconfirmed)
    // No mail server is asked.
    const elsewhere = standIn.url
    useStandIn('smtp://127.0.0.1:1')
    expect(await sendDueMail(site.db)).toBe(1)
    useStandIn(elsewhere)
    const told = await strangerTold(site.db, read)
    expect(told.mails.map(one => one.subject)).toEqual(['Is this your address?'])
    const token = /token=([\w-]+)/.exec(told.mails[0]!.plain)![1]!
    await confirmAddress(site.db, strict, { token, password: 'harbour lights' }, {})
    expect((await strangerTold(site.db, read)).person).toMatchObject({ confirmed: true, approved: true })
    await endStranger(site.db, read, ines)
    expect(await strangerTold(site.db, read)).toEqual({ mails: [], person: null })

    const left = makeStranger('s-1', Date.now())
    await signUp(site.db, settings({}), stranger(left.email))
    await dropOldStrangers(site.db)
    expect((await strangerTold(site.db, { ...read, email: left.email })).person).not.toBeNull()
    await site.db
      .update(person)
      .set({ createdAt: new Date(Date.now() - 3_600_000) })
      .where(eq(person.email, left.email))
    await dropOldStrangers(site.db)
    expect((await strangerTold(site.db, { ...read, email: left.email })).person).toBeNull()
  })
})
