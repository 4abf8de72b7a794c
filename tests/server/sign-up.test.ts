import { word } from '../../core/site-words/site-words'
import { desc, eq } from 'drizzle-orm'
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import type { Connection } from '../../server/db/database'
import { mailKept, mailOut, person } from '../../server/db/schema'
import { Problem } from '../../server/problem'
import { weaknessOf } from '../../server/services/secrets/password-strength'
import { forgetExpiredMail, sendAgain, sendDueMail } from '../../server/services/mail/mail'
import { useStandIn } from '../../server/mail-server'
import { startMailStandIn } from '../../server/services/mail/mail-stand-in'
import { askMailCheck, mailWorks, takeMailCode } from '../../server/services/mail/mail-check'
import { filledText, mailTextInput, mailTextKeys, mailTexts, saveText } from '../../server/services/mail/mail-texts'
import { sessionsOf, signedInBy, signIn } from '../../server/services/entrance/sessions'
import { saveSettings } from '../../server/services/site/site-settings'
import {
  askReset,
  confirmAddress,
  decideSignUp,
  invite,
  resetPassword,
  signUp,
} from '../../server/services/entrance/sign-up'
import { password, readFacts } from '../../server/services/entrance/sign-up-form'
import type { SignUpWorld } from '../../server/services/entrance/sign-up'
import { countTry } from '../../server/services/secrets/throttle'
import { visitorOf } from '../../server/services/standing/visitor-of'
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

describe('signing up', () => {
  it('open and unconfirmed lets in at once, with the level everybody starts with', async () => {
    const { answer, personId } = await signUp(
      site.db,
      settings({ startRoles: ['classroom', 'keeper'] }),
      stranger('nell@orr.example'),
    )
    expect(answer).toBe('can-sign-in')
    await trySignIn('NELL@orr.example')
    // A staff role in the settings is passed over, whoever put it there.
    expect(await visitorOf(site.db, personId!)).toMatchObject({ levels: [{ level: 'friend' }], roles: ['classroom'] })
    expect((await mailTo('nell@orr.example'))?.subject).toBe('Come in')
  })

  it('goes through the mailbox, then the queue, and each step is told', async () => {
    const strict = settings({ confirmByMail: true, approveByHand: true })
    const { answer, personId } = await signUp(site.db, strict, stranger('ebb@orr.example'))
    expect([answer, await codeOf(trySignIn('ebb@orr.example'))]).toEqual(['look-in-mail', 'not-confirmed'])
    const { token } = (await mailTo('ebb@orr.example'))!
    expect(await codeOf(confirmAddress(site.db, strict, { token, password: 'not the one' }, {}))).toBe('wrong-sign-in')
    expect(await codeOf(confirmAddress(site.db, strict, { token: `${token}x`, password: 'harbour lights' }, {}))).toBe(
      'bad-token',
    )
    expect(await confirmAddress(site.db, strict, { token, password: 'harbour lights' }, {})).toEqual({ waiting: true })
    expect(await codeOf(confirmAddress(site.db, strict, { token, password: 'harbour lights' }, {}))).toBe('bad-token')
    expect((await mailTo('ebb@orr.example'))?.subject).toBe('We will look at it')
    expect(await codeOf(trySignIn('ebb@orr.example'))).toBe('waiting')
    const letIn = (roles: string[]) => decideSignUp(site.db, strict, personId!, { approve: true, roles }, ines)
    for (const roles of [['islander', 'front-desk'], ['gone']]) expect(await codeOf(letIn(roles))).not.toBe('none')
    expect(await codeOf(trySignIn('ebb@orr.example'))).toBe('waiting')
    await letIn(['islander', 'islander'])
    expect((await visitorOf(site.db, personId!))?.roles).toContain('islander')
    expect(await codeOf(decideSignUp(site.db, strict, personId!, { approve: false, words: '' }, ines))).toBe(
      'changed-meanwhile',
    )
    expect((await mailTo('ebb@orr.example'))?.subject).toBe('Come in')
    expect(await codeOf(trySignIn('ebb@orr.example'))).toBe('none')
  })

  it('declined stays outside, with the words said', async () => {
    const strict = settings({ approveByHand: true })
    const { personId } = await signUp(site.db, strict, stranger('flo@orr.example'))
    // That she waits is sent before what was decided: two mails due at once may pass each other.
    expect((await mailTo('flo@orr.example'))?.plain).toContain('looks at each sign-up by hand')
    await decideSignUp(site.db, strict, personId!, { approve: false, words: 'The course is full.' }, ines)
    expect((await mailTo('flo@orr.example'))?.plain).toContain('The course is full.')
    expect(await codeOf(trySignIn('flo@orr.example'))).toBe('suspended')
  })

  it('tells only the owner that an address is known', async () => {
    for (const strict of [settings({}), settings({ confirmByMail: true }), settings({ approveByHand: true })]) {
      const known = await signUp(site.db, strict, stranger('MAKO@wexlow.example'))
      const fresh = await signUp(site.db, strict, stranger(`${Math.random()}@orr.example`))
      expect(known.answer).toBe(fresh.answer)
    }
    expect((await mailTo('mako@wexlow.example'))?.subject).toBe('You have an account already')
    expect(await codeOf(trySignIn('mako@wexlow.example', 'wexlow-demo'))).toBe('none')
  })

  it('again before confirming replaces the first try, and its link', async () => {
    const strict = settings({ confirmByMail: true })
    await signUp(site.db, strict, stranger('gus@orr.example'))
    const first = (await mailTo('gus@orr.example'))!.token
    await signUp(site.db, strict, { ...stranger('gus@orr.example'), password: 'second thoughts' })
    const second = (await mailTo('gus@orr.example'))!.token
    expect(await codeOf(confirmAddress(site.db, strict, { token: first, password: 'harbour lights' }, {}))).toBe(
      'bad-token',
    )
    const done = await confirmAddress(site.db, strict, { token: second, password: 'second thoughts' }, {})
    expect('session' in done && (await signedInBy(site.db, done.session))?.visitor.person?.email).toBe(
      'gus@orr.example',
    )
  })

  it('by invitation only takes the invited, once, with what they were given', async () => {
    const strict = settings({ mode: 'invitation', confirmByMail: true })
    expect(await codeOf(signUp(site.db, strict, stranger('hal@orr.example')))).toBe('sign-up-closed')
    expect(await codeOf(signUp(site.db, settings({ mode: 'closed' }), stranger('hal@orr.example')))).toBe(
      'sign-up-closed',
    )
    await invite(site.db, { email: 'hal@orr.example', levels: ['maker'], roles: ['stockist'], firm: 'gullhaven' }, ines)
    const { token: invitation } = (await mailTo('hal@orr.example'))!
    const { personId } = await signUp(site.db, strict, { ...stranger('other@orr.example'), invitation })
    const visitor = (await visitorOf(site.db, personId!))!
    expect(visitor).toMatchObject({ person: { email: 'hal@orr.example' }, firm: 'gullhaven', roles: ['stockist'] })
    expect(visitor.levels!.map(one => one.level).sort()).toEqual(['friend', 'maker'])
    expect(await codeOf(signUp(site.db, strict, { ...stranger('hal@orr.example'), invitation }))).toBe('bad-token')
  })

  it('asks for facts by their type', () => {
    const facts = [
      { id: 'spindles', name: 'Spindles', type: 'number' as const, required: true },
      { id: 'hall', name: 'Hall', type: 'choice' as const, choices: ['north'] },
      { id: 'vat', name: 'Vat', type: 'flag' as const },
    ]
    expect(readFacts(facts, { 'fact-spindles': '2.5', 'fact-vat': 'on' })).toEqual({
      values: { spindles: 2.5, vat: true },
      problems: {},
    })
    expect(readFacts(facts, { 'fact-hall': 'south' }).problems).toEqual({
      'fact-spindles': word('wrong.fact-needed', { name: 'Spindles' }),
      'fact-hall': word('wrong.fact-choice', { name: 'Hall', choices: 'north' }),
    })
    expect(readFacts(facts, { 'fact-spindles': 'many' }).problems).toEqual({
      'fact-spindles': word('wrong.fact-number', { name: 'Spindles' }),
    })
    expect(password.safeParse('short').success).toBe(false)
  })

  it.each([
    ['1234567890', 'common'],
    ['aaaaaaaaaaaa', 'common'],
    ['Password123', 'common'],
    ['iloveyou2024', 'common'],
    ['passwort1234', 'common'],
    ['asdfghjkl;', 'keyboard'],
    ['qwertzuiopü', 'keyboard'],
    ['nell@orr.example', 'own'],
    ['Nell@Orr.example1', 'own'],
  ])('refuses the password %s as one that is %s', (weak, why) =>
    expect(weaknessOf(weak, ['Nell Orr', 'nell@orr.example'])).resolves.toBe(why),
  )

  it('takes passwords that are none of these, and looks at a long one in no time', async () => {
    for (const fine of ['harbour lights', 'wool and needles', 'Tr0ub4dour&3'])
      expect(await weaknessOf(fine, ['Nell Orr', 'nell@orr.example'])).toBeUndefined()
    const start = performance.now()
    await weaknessOf('aB3$qwe9'.repeat(125), [])
    expect(performance.now() - start).toBeLessThan(1000)
  })
})

describe('passwords', () => {
  it('are chosen anew by a link that works once and ends every session', async () => {
    const { token: session } = await signIn(site.db, {
      email: 'tilde@wexlow.example',
      password: 'wexlow-demo',
      network: '',
    })
    await askReset(site.db, 'nobody@orr.example')
    await askReset(site.db, 'Tilde@wexlow.example')
    const { token } = (await mailTo('tilde@wexlow.example'))!
    await resetPassword(site.db, world, { token, password: 'a new one, long' })
    expect(await signedInBy(site.db, session)).toBeNull()
    expect(await codeOf(resetPassword(site.db, world, { token, password: 'a third, longer' }))).toBe('bad-token')
    expect(await codeOf(trySignIn('tilde@wexlow.example', 'wexlow-demo'))).toBe('wrong-sign-in')
    expect(await codeOf(trySignIn('tilde@wexlow.example', 'a new one, long'))).toBe('none')
    expect((await sessionsOf(site.db, 'p-tilde')).length).toBe(1)
    // Links are kept hashed, and a mail's once it is sent.
    expect(JSON.stringify(await site.db.select().from(mailOut))).not.toContain(token)
  })

  it('suspension takes effect on the next request', async () => {
    const { token } = await signIn(site.db, { email: 'pia@wexlow.example', password: 'wexlow-demo', network: '' })
    expect(await signedInBy(site.db, token)).not.toBeNull()
    await site.db.update(person).set({ suspendedAt: new Date() }).where(eq(person.id, 'p-pia'))
    expect(await signedInBy(site.db, token)).toBeNull()
    expect(await codeOf(trySignIn('pia@wexlow.example', 'wexlow-demo'))).toBe('suspended')
  })
})

describe('the throttle', () => {
  it('lets a thousand tries at once count one by one, across connections', async () => {
    const limit = [{ what: 'test', of: 'isla@wexlow.example', most: 10, windowMs: 60_000 }]
    const answers = await Promise.all(Array.from({ length: 1000 }, () => codeOf(countTry(site.db, limit, 'tries'))))
    expect(answers.filter(one => one === 'none')).toHaveLength(10)
  })
})

describe('mail', () => {
  it('is tried again until the server takes it, then given up', async () => {
    await site.db.delete(mailOut)
    const values = {
      text: 'welcome',
      recipient: 'isla@wexlow.example',
      values: { name: 'Isla', link: 'http://127.0.0.1/sign-in' },
    }
    await site.db.insert(mailOut).values(values)
    const due = () => site.db.update(mailOut).set({ nextTryAt: new Date() })
    const state = async () => (await site.db.select().from(mailOut))[0]!
    useStandIn('smtp://127.0.0.1:1')
    const pauses: number[] = []
    for (let i = 0; i < 9; i++) {
      await due()
      expect(await sendDueMail(site.db)).toBe(0)
      pauses.push(Math.round(((await state()).nextTryAt.getTime() - Date.now()) / 1000))
    }
    expect(await state()).toMatchObject({ state: 'queued', tries: 9, problem: 'ESOCKET', values: values.values })
    expect(pauses).toEqual([10, 20, 40, 80, 160, 320, 640, 1280, 2560])
    useStandIn(standIn.url)
    await due()
    expect(await sendDueMail(site.db)).toBe(1)
    expect(await state()).toMatchObject({ state: 'sent', problem: null, values: {} })
    // After two days it is given up, and can still be sent by hand.
    useStandIn('smtp://127.0.0.1:1')
    await site.db
      .update(mailOut)
      .set({ ...values, state: 'queued', nextTryAt: new Date(), createdAt: new Date(Date.now() - 49 * 3_600_000) })
    await sendDueMail(site.db)
    expect(await state()).toMatchObject({ state: 'failed', values: values.values })
    useStandIn(standIn.url)
    await sendAgain(site.db, (await state()).id, ines)
    expect([await sendDueMail(site.db), (await state()).state]).toEqual([1, 'sent'])
    expect(await codeOf(sendAgain(site.db, (await state()).id, ines))).toBe('changed-meanwhile')
  })

  it('that says what is of no use any more is not sent', async () => {
    await site.db.delete(mailOut)
    await site.db.insert(mailOut).values({
      text: 'reset',
      recipient: 'isla@wexlow.example',
      values: { link: 'x' },
      expiresAt: new Date(Date.now() - 1000),
    })
    expect(await sendDueMail(site.db)).toBe(0)
    expect((await site.db.select().from(mailOut))[0]).toMatchObject({ state: 'failed', problem: 'expired', values: {} })
  })

  it('that was given up keeps its link while it may be sent again, and no longer', async () => {
    await site.db.delete(mailOut)
    const given = (recipient: string, hours: number) => ({
      text: 'invite',
      recipient,
      state: 'failed' as const,
      values: { link: 'x' },
      expiresAt: new Date(Date.now() + hours * 3_600_000),
    })
    await site.db.insert(mailOut).values([given('still@wexlow.example', 1), given('over@wexlow.example', -1)])
    await forgetExpiredMail(site.db)
    expect(Object.fromEntries((await site.db.select().from(mailOut)).map(row => [row.recipient, row.values]))).toEqual({
      'still@wexlow.example': { link: 'x' },
      'over@wexlow.example': {},
    })
  })

  it('somebody waits for goes before three hundred others, and is sent once by two servers', async () => {
    await site.db.delete(mailOut)
    const values = { values: { name: 'Isla', link: 'http://127.0.0.1/x' } }
    await site.db
      .insert(mailOut)
      .values(
        Array.from({ length: 300 }, (_, i) => ({ text: 'welcome', recipient: `w${i}@wexlow.example`, ...values })),
      )
    await site.db.insert(mailOut).values({ text: 'reset', recipient: 'hurry@wexlow.example', urgent: true, ...values })
    const sent = await Promise.all([sendDueMail(site.db), sendDueMail(site.db)])
    expect(sent[0] + sent[1]).toBe(301)
    const kept = await site.db.select({ recipient: mailKept.recipient }).from(mailKept).orderBy(mailKept.id)
    expect(kept).toHaveLength(301)
    expect(kept.findIndex(one => one.recipient === 'hurry@wexlow.example')).toBeLessThan(60)
  })

  it('must be known to work before addresses are confirmed by it', async () => {
    await site.db.execute('delete from setting')
    const wanted = { ...defaultSettings['sign-up'], confirmByMail: true }
    expect(await codeOf(saveSettings(site.db, 'sign-up', wanted, ines))).toBe('mail-unchecked')
    await askMailCheck(site.db, 'ines@wexlow.example', ines)
    const code = /\d{6}/.exec((await mailTo('ines@wexlow.example'))!.plain)![0]
    expect(await codeOf(takeMailCode(site.db, '000000', ines))).toBe('bad-input')
    await takeMailCode(site.db, code, ines)
    expect(await mailWorks(site.db)).toBe(true)
    await saveSettings(site.db, 'sign-up', wanted, ines)
    expect(await codeOf(saveSettings(site.db, 'sign-up', { ...wanted, startRoles: ['keeper'] }, ines))).toBe(
      'bad-input',
    )
    expect(await codeOf(saveSettings(site.db, 'sign-up', { ...wanted, startLevel: 'elder' }, ines))).toBe('bad-input')
  })

  it('says what its text says, and no more than it may name', async () => {
    for (const key of mailTextKeys) expect(mailTextInput(key).safeParse(mailTexts[key].text).success, key).toBe(true)
    const wrong = mailTextInput('welcome').safeParse({ subject: 'Hello {code}', plain: 'x', html: 'x' })
    expect(wrong.error?.issues[0]).toMatchObject({
      path: ['subject'],
      message: '{code} is not known here. Known: {site} {name} {link}.',
    })
    expect(
      filledText({ subject: '{name}', plain: '{name}', html: '<p>{name}</p>' }, { name: '<b>\r\nBcc: x' }),
    ).toEqual({ subject: '<b> Bcc: x', plain: '<b>\r\nBcc: x', html: '<p>&lt;b&gt;\r\nBcc: x</p>' })
    await saveText(
      site.db,
      'welcome',
      { subject: 'Wipe your feet, {name}', plain: '{link}', html: '<p>{link}</p>' },
      ines,
    )
    await signUp(site.db, settings({}), stranger('ivy@orr.example'))
    expect((await mailTo('ivy@orr.example'))?.subject).toBe('Wipe your feet, Nell Orr')
  })
})
