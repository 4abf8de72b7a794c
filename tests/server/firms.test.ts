import { desc, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { CompiledDecider } from '../../core/gates/compiled-decider'
import type { CompiledRules } from '../../core/gates/compiled'
import type { Connection } from '../../server/db/database'
import { mailOut } from '../../server/db/schema'
import { Problem } from '../../server/problem'
import { openForm, openForms, saveForm } from '../../server/services/forms/forms'
import {
  apply,
  applicationsOf,
  decideApplication,
  waitingApplications,
} from '../../server/services/people/applications'
import {
  addFirm,
  changeFirm,
  firmOf,
  inviteToFirm,
  joinFirm,
  leaveFirm,
  removeFirm,
  sayOfOwnFirm,
} from '../../server/services/people/firms'
import type { FirmChange } from '../../server/services/people/firms'
import { changePerson } from '../../server/services/people/people'
import { publish } from '../../server/services/editions/publish'
import { asSystem, saveEntry, undoChange } from '../../server/services/editions/entries'
import { visitorOf } from '../../server/services/standing/visitor-of'
import { freshDatabase } from '../support/database'
import { ines, keeperOf, liveRules } from '../support/world'

let site: Connection & { url: string }
let rules: CompiledRules
beforeAll(async () => {
  site = await freshDatabase('demo')
  rules = await liveRules(site)
})
afterAll(() => site.close())
const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'none',
    (error: unknown) => (error instanceof Problem ? error.code : String(error)),
  )
const stella = { id: 'p-stella', name: 'Stella Brand' }
const pia = { id: 'p-pia', name: 'Pia Lain', email: 'pia@wexlow.example' }
const opens = async (id: string, page: string) =>
  new CompiledDecider(rules, (await visitorOf(site.db, id))!, Date.now()).decide({ kind: 'page', id: page }).open
const lastMail = async (to: string) =>
  (await site.db.select().from(mailOut).where(eq(mailOut.recipient, to)).orderBy(desc(mailOut.id)))[0]!
const tokenFor = async (to: string) => /token=([\w-]+)/.exec((await lastMail(to)).values.link!)![1]!

describe('a firm', () => {
  it('shares what it holds with its people, for as long as they belong to it', async () => {
    expect(await opens('p-pia', 'trade')).toBe(false)
    await inviteToFirm(site.db, stella, 'PIA@wexlow.example')
    const token = await tokenFor('PIA@wexlow.example')
    expect(await codeOf(joinFirm(site.db, { id: 'p-fenn', name: 'Fenn', email: 'fenn@wexlow.example' }, token))).toBe(
      'not-allowed',
    )
    expect(await joinFirm(site.db, pia, token)).toBe('Gullhaven Knits')
    expect(await codeOf(joinFirm(site.db, pia, token))).toBe('bad-token')
    expect(await opens('p-pia', 'trade')).toBe(true)
    expect(await firmOf(site.db, 'p-pia')).toMatchObject({ name: 'Gullhaven Knits', mine: false })
    expect(await codeOf(inviteToFirm(site.db, pia, 'x@wexlow.example'))).toBe('not-allowed')
    expect(await codeOf(leaveFirm(site.db, pia, 'p-stella'))).toBe('not-allowed')
    expect(await codeOf(leaveFirm(site.db, stella, 'p-stella'))).toBe('in-use')
    await changeFirm(site.db, keeperOf(rules), 'gullhaven', { giveLevel: 'maker' }, ines)
    expect(await opens('p-pia', 'mending')).toBe(true)
    await leaveFirm(site.db, stella, 'p-pia')
    expect([await opens('p-pia', 'trade'), await opens('p-pia', 'mending')]).toEqual([false, false])
  })

  it('has a VAT number for its people, where they say none of their own', async () => {
    const firm = (change: FirmChange) => codeOf(changeFirm(site.db, keeperOf(rules), 'gullhaven', change, ines))
    const numberOf = async (id: string) =>
      new CompiledDecider(rules, (await visitorOf(site.db, id))!, Date.now()).asker.fact('vat')
    const before = rules
    const body = { id: 'vat', name: 'VAT number', type: 'vatNumber' }
    expect(await firm({ fact: 'vat', value: 'IE6388047V' })).toBe('bad-input')
    await saveEntry(site.db, { permit: asSystem, kind: 'fact', key: 'vat', body, expects: null, actor: ines })
    await publish(site.db, { authorise: asSystem, note: '', expects: 1, actor: ines })
    rules = await liveRules(site, 2)
    expect(await firm({ fact: 'vat', value: 'IE 63' })).toBe('bad-input')
    expect(await firm({ fact: 'spindles', value: '3' })).toBe('bad-input')
    expect(await firm({ fact: 'vat', value: 'ie 6388047 v' })).toBe('none')
    expect([await numberOf('p-stella'), await numberOf('p-pia')]).toEqual(['IE6388047V', undefined])
    await changePerson(site.db, 'p-stella', { facts: { vat: 'DE136695976' } }, ines)
    expect(await numberOf('p-stella')).toBe('DE136695976')
    await changePerson(site.db, 'p-stella', { facts: { vat: null } }, ines)
    // Whoever may change firms and not what is known of people says nothing of them either.
    const roleRule = { id: 'x', role: 'x', kind: 'firms', actions: ['look', 'change'], whose: 'anyone' }
    const worker = { ...keeperOf(rules), rights: { masterKey: false, roles: ['x'], rules: [roleRule] } as never }
    expect(await codeOf(changeFirm(site.db, worker, 'gullhaven', { fact: 'vat', value: null }, ines))).toBe(
      'not-allowed',
    )
    expect(await codeOf(sayOfOwnFirm(site.db, pia, { vat: null }))).toBe('not-allowed')
    await sayOfOwnFirm(site.db, stella, { vat: null })
    expect(await numberOf('p-stella')).toBeUndefined()
    rules = before
  })

  it('takes no staff role, no second belonging, and stays while a rule names it', async () => {
    expect(await codeOf(changeFirm(site.db, keeperOf(rules), 'gullhaven', { giveRole: 'keeper' }, ines))).toBe(
      'bad-input',
    )
    await addFirm(site.db, { id: 'sett', name: 'Sett & Sons' }, ines)
    expect(await codeOf(addFirm(site.db, { id: 'sett', name: 'Again' }, ines))).toBe('taken')
    expect(await codeOf(changeFirm(site.db, keeperOf(rules), 'sett', { addPerson: 'p-stella' }, ines))).toBe('taken')
    const body = { id: 'sett-only', on: { page: 'visit' }, open: { firm: { in: ['sett'] } } }
    await saveEntry(site.db, { permit: asSystem, kind: 'gate', key: 'sett-only', body, expects: null, actor: ines })
    expect(await codeOf(removeFirm(site.db, keeperOf(rules), 'sett', ines))).toBe('in-use')
    await undoChange(site.db, { permit: asSystem, kind: 'gate', key: 'sett-only', actor: ines })
    expect(await codeOf(removeFirm(site.db, keeperOf(rules), 'sett', ines))).toBe('none')
  })
})

describe('applications', () => {
  const book = () => rules.rulebook

  it('are sent once, decided once, and give what was asked for', async () => {
    await apply(site.db, book(), { target: 'role stockist', answers: ['Lain Wool, Gullhaven'], isStaff: false }, pia)
    expect(await codeOf(apply(site.db, book(), { target: 'role stockist', answers: [], isStaff: false }, pia))).toBe(
      'taken',
    )
    const waiting = (await waitingApplications(site.db)).find(one => one.person.id === 'p-pia')!
    expect(waiting.answers).toEqual([
      { question: 'What is your shop called, and where is it?', answer: 'Lain Wool, Gullhaven' },
      { question: 'Which of our yarns would you carry?', answer: '' },
    ])
    await decideApplication(site.db, keeperOf(rules), waiting.id, { accept: true, words: 'Welcome aboard.' }, ines)
    expect(
      await codeOf(decideApplication(site.db, keeperOf(rules), waiting.id, { accept: false, words: '' }, ines)),
    ).toBe('changed-meanwhile')
    expect(await opens('p-pia', 'trade')).toBe(true)
    expect(await lastMail('pia@wexlow.example')).toMatchObject({
      text: 'application-accepted',
      values: { what: 'Stockist', words: 'Welcome aboard.' },
    })
    expect((await applicationsOf(site.db, 'p-pia')).map(one => one.state)).toEqual(['accepted'])
  })

  it('for a staff role are open to staff alone, and confirmed by name', async () => {
    expect((await openForms(site.db, book(), false)).map(one => one.about.id)).toEqual(['stockist', 'test-knitter'])
    expect(await codeOf(openForm(site.db, book(), 'role page-hand', false))).toBe('not-found')
    expect(await codeOf(saveForm(site.db, 'role keeper', { open: true, intro: '', questions: [] }, ines))).toBe(
      'bad-input',
    )
    const oona = { id: 'p-oona', name: 'Oona Birk' }
    await apply(site.db, book(), { target: 'role page-hand', answers: ['The shop pages'], isStaff: true }, oona)
    const waiting = (await waitingApplications(site.db)).find(one => one.person.id === 'p-oona')!
    expect(
      await codeOf(decideApplication(site.db, keeperOf(rules), waiting.id, { accept: true, words: '' }, ines)),
    ).toBe('bad-input')
    await decideApplication(
      site.db,
      keeperOf(rules),
      waiting.id,
      { accept: true, words: '', confirm: 'page-hand' },
      ines,
    )
    expect((await visitorOf(site.db, 'p-oona'))?.roles?.sort()).toEqual(['page-hand', 'shop-hand'])
  })
})
