import { eq } from 'drizzle-orm'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import type { Connection } from '../../server/db/database'
import { trace } from '../../server/db/schema'
import { readEnvironmentAnew } from '../../server/environment'
import { Problem } from '../../server/problem'
import { siteAddress } from '../../server/services/mail/mail'
import {
  filledText,
  listTexts,
  mailTextInput,
  mailTextKeys,
  mailTexts,
  saveText,
  textFor,
} from '../../server/services/mail/mail-texts'
import { saveSettings } from '../../server/services/site/site-settings'
import { readSettings, settingGroups } from '../../server/services/settings/settings'
import { freshDatabase } from '../support/database'
import { defaultSettings, ines } from '../support/world'

let site: Connection & { url: string }
beforeAll(async () => {
  site = await freshDatabase('demo')
})
afterAll(() => site.close())
const problemOf = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: unknown) =>
      error instanceof Problem ? [error.code, (error.extra as { at?: string } | undefined)?.at] : String(error),
  )

describe('settings', () => {
  const signUp = defaultSettings['sign-up']
  const save = (changes: Partial<typeof signUp>) =>
    problemOf(saveSettings(site.db, 'sign-up', { ...signUp, ...changes }, ines))

  it('are kept whole, and who changed what leaves a trace', async () => {
    await saveSettings(site.db, 'payment', { graceDays: 3 }, ines)
    expect((await readSettings(site.db)).payment).toEqual({ graceDays: 3 })
    const traces = await site.db.select().from(trace).where(eq(trace.subject, 'settings payment'))
    expect(traces.at(-1)).toMatchObject({
      personId: ines.id,
      who: ines.name,
      action: 'settings.change',
      detail: { after: { graceDays: 3 } },
    })
  })

  it.each([
    [{ startLevel: 'elder' }, '/startLevel'],
    [{ startRoles: ['islander', 'nobody'] }, '/startRoles/1'],
    [{ startRoles: ['front-desk'] }, '/startRoles/0'],
    [{ facts: [{ fact: 'shoe-size', required: true }] }, '/facts/0/fact'],
  ])('refuse %j where it stands, and stay as they were', async (changes, at) => {
    const before = (await readSettings(site.db))['sign-up']
    expect(await save(changes)).toEqual(['bad-input', at])
    expect((await readSettings(site.db))['sign-up']).toEqual(before)
  })

  it.each([
    ['payment', { graceDays: -1 }],
    ['payment', { graceDays: 1.5 }],
    ['activity', { keepMonths: 0 }],
    ['mail', { senderAddress: 'the mill' }],
    ['sign-up', { mode: 'ajar' }],
    ['sign-up', { unknown: 1 }],
  ] as const)('of %s know no %j', (group, body) => {
    expect(settingGroups[group].safeParse(body).success).toBe(false)
  })
})

describe('the texts of mails', () => {
  it('never say more than they may name, and never break a subject or a page', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...mailTextKeys),
        fc.string().filter(value => !value.includes('{')),
        (key, value) => {
          const text = mailTexts[key].text
          const values = Object.fromEntries(mailTexts[key].values.map(name => [name, `${value}\r\n<b>&"`]))
          const filled = filledText(text, values)
          expect(filled.subject).not.toMatch(/[\r\n]/)
          // All markup of the HTML is the text's own.
          expect((filled.html.match(/</g) ?? []).length).toBe((text.html.match(/</g) ?? []).length)
          expect(filled.plain + filled.html + filled.subject).not.toContain('{')
        },
      ),
      { numRuns: 200 },
    )
  })

  it.each([
    ['subject', 'Two\nlines', 'one line'],
    ['subject', '', 'Something must be said.'],
    ['plain', 'Your {password}', '{password} is not known here'],
    ['html', '<p>{code}</p>', '{code} is not known here'],
  ])('refuse a %s of %j', (part, words, why) => {
    const result = mailTextInput('confirm').safeParse({ ...mailTexts.confirm.text, [part]: words })
    expect([result.error!.issues[0]!.path[0], result.error!.issues[0]!.message]).toEqual([
      part,
      expect.stringContaining(why),
    ])
  })

  it("are the operator's once changed, and can be seen as they came", async () => {
    await saveText(site.db, 'welcome', { subject: 'Come in, {name}', plain: 'Hello', html: '<p>Hello</p>' }, ines)
    expect((await textFor(site.db, 'welcome')).subject).toBe('Come in, {name}')
    expect(await textFor(site.db, 'reset')).toEqual(mailTexts.reset.text)
    expect((await listTexts(site.db)).find(one => one.key === 'welcome')).toMatchObject({
      changed: true,
      subject: 'Come in, {name}',
      original: mailTexts.welcome.text,
    })
  })
})

describe('a link in a mail', () => {
  it("leads to the site's own address, whatever a request says", () => {
    vi.stubEnv('BRAVIK_ADDRESS', 'https://mill.example/')
    readEnvironmentAnew()
    expect(siteAddress()).toBe('https://mill.example')
    vi.unstubAllEnvs()
    readEnvironmentAnew()
  })
})
