import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import Firms from '../../app/loft/people/Firms.vue'
import Queues from '../../app/loft/people/Queues.vue'
import type { LoftAnswer } from '../../app/loft/core/loft-api'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { everybody, listed, startData, mountScreen, refusal } from './loft-screen'
import type { Answers } from './loft-screen'

const application = (id: number, target: string) => ({
  id,
  target,
  createdAt: '2026-11-21T10:00:00Z',
  person: listed('p-mako', 'Mako Strand'),
  answers: [{ question: 'Where is your shop?', answer: 'Northport' }],
})
const waiting: LoftAnswer<'GET queues'> = {
  signUps: [listed('p-new', 'Nele Foss', { standing: 'waiting' })],
  unconfirmed: 2,
  applications: [application(4, 'role stockist'), application(5, 'role shop-hand')],
}
const queues = (answers: Answers = {}, rules?: Parameters<typeof startData>[0]) =>
  mountScreen(Queues, { answers: { 'GET queues': waiting, ...answers }, data: startData(rules) })
const posted = (calls: { method: string; path: string; body: unknown }[]) =>
  calls.filter(call => call.method !== 'GET').map(({ path, body }) => [path, body])

describe('invitations', () => {
  const invited = {
    id: 'i1',
    email: 'nell@orr.example',
    by: 'Ines Varga',
    levels: ['maker'],
    roles: ['islander'],
    firm: null,
    expiresAt: '2026-12-09T10:00:00Z',
    void: false,
  }
  const list = [
    invited,
    {
      ...invited,
      id: 'i2',
      email: 'old@orr.example',
      levels: [],
      roles: [],
      firm: { id: 'sett', name: 'Sett' },
      void: true,
    },
  ]

  it('say whom they bring what, and are taken back', async () => {
    const { text, press, calls, answers } = await queues({ 'GET people/invitations': list })
    expect(text()).toContain('nell@orr.examplebrings Maker, Islander · until 9 Dec 2026')
    expect(text()).toContain('nobody can take it up any more')
    answers['GET people/invitations'] = list.slice(1)
    await press('Take back the invitation of nell@orr.example')
    expect(calls.filter(call => call.method === 'DELETE').map(call => call.path)).toEqual(['people/invitations/i1'])
    expect(text()).toContain('The invitation of nell@orr.example works no more.')
    expect(text()).toContain('Invitations on their way 1')
  })

  it('to a firm are taken back by who may change firms', async () => {
    const { find } = await queues(
      { 'GET people/invitations': list },
      {
        me: {
          id: 'p',
          name: 'P',
          masterKey: false,
          roles: ['front-desk'],
          rules: [{ role: 'front-desk', kind: 'people', actions: ['look', 'change'], whose: 'anyone' }],
        },
      },
    )
    expect(find('Take back the invitation of nell@orr.example')).not.toBeNull()
    expect(() => find('Take back the invitation of old@orr.example')).toThrow()
  })
})

describe('the queues', () => {
  it("show who waits, what they ask for and what they answered, on the site's own clock", async () => {
    const { text } = await queues()
    expect(text()).toContain('Sign-ups to approve 1')
    expect(text()).toContain('p-new@wexlow.example · 20 Nov 2026, 09:30')
    expect(text()).toContain('Mako Strand asks to be Stockist')
    expect(text()).toContain('Where is your shop?Northport')
  })

  it('let somebody in, or decline with words, and say what became of it', async () => {
    const { press, type, text, calls, answers } = await queues()
    await type('Words to Nele Foss, if declined', 'Not this year.')
    await press('Decline')
    expect(posted(calls)).toEqual([['people/p-new/decision', { approve: false, words: 'Not this year.' }]])
    expect(text()).toContain('Nele Foss is told.')
    await press('Let Nele Foss in')
    expect(posted(calls)[1]).toEqual(['people/p-new/decision', { approve: true }])
    await press('Islander')
    await press('Let Nele Foss in')
    expect(posted(calls)[2]).toEqual(['people/p-new/decision', { approve: true, roles: ['islander'] }])
    answers['POST people/p-new/decision'] = refusal('changed-meanwhile', 'Somebody decided meanwhile.')
    await press('Let Nele Foss in')
    expect(text()).toContain('Somebody decided meanwhile.')
  })

  it('accept an application at once, and one for a staff role only when it is named again', async () => {
    const { press, type, calls, text, find } = await queues()
    await type('Words to Mako Strand', 'Welcome.')
    await press('Accept Mako Strand as Stockist')
    expect(posted(calls)).toEqual([['applications/4', { accept: true, words: 'Welcome.' }]])
    await press('Accept Mako Strand as Shop hand')
    expect(posted(calls)).toHaveLength(1)
    expect(text()).toContain('Mako Strand becomes Shop hand and enters the loft. One person.')
    find('Make Mako Strand Shop hand').click()
    await Promise.resolve()
    expect(posted(calls)[1]).toEqual(['applications/5', { accept: true, words: '', confirm: 'shop-hand' }])
  })

  it('offer nothing to decide to who may only look', async () => {
    const { find, text } = await queues(
      {},
      {
        me: {
          id: 'p',
          name: 'P',
          masterKey: false,
          roles: ['front-desk'],
          rules: [{ role: 'front-desk', kind: 'people', actions: ['look'], whose: 'anyone' }],
        },
      },
    )
    expect(text()).toContain('Nele Foss')
    for (const name of ['Let Nele Foss in', 'Decline', 'Accept Mako Strand as Stockist'])
      expect(() => find(name), name).toThrow()
  })

  it('say that nobody waits, and how many have yet to confirm', async () => {
    const { text } = await queues({ 'GET queues': { signUps: [], unconfirmed: 1, applications: [] } })
    expect(text()).toContain('Nobody waits. 1 has not confirmed their address yet.')
    expect(text()).toContain('Nobody asks for anything.')
  })
})

const firm: LoftAnswer<'GET firms'>[number] = {
  id: 'skerry',
  name: 'Skerry Wools',
  people: [
    { id: 'p-a', name: 'Ada Lund', email: 'ada@skerry.example', owner: true },
    { id: 'p-b', name: 'Bo Eide', email: 'bo@skerry.example', owner: false },
  ],
  levels: [
    { id: 3, level: 'maker', since: '2019-01-01T00:00:00Z', until: null },
    { id: 4, level: 'guild', since: '2019-01-01T00:00:00Z', until: '2020-01-01T00:00:00Z' },
  ],
  count: 2,
  roles: ['stockist'],
  facts: {},
}
const firms = (answers: Answers = {}) => mountScreen(Firms, { answers: { 'GET firms': [firm], ...answers } })

describe('firms', () => {
  it('show their people and what runs of what they share', async () => {
    const { text } = await firms()
    expect(text()).toContain('Ada Lundowner')
    expect(text()).toContain('Maker')
    expect(text()).toContain('Stockist')
    expect(text().replace(/\+ level or role.*/, '')).not.toContain('Guild')
  })

  it('are changed in place, one thing at a time', async () => {
    const { press, type, calls, answers } = await firms()
    await press('make owner')
    await press('take out Bo Eide, of Skerry Wools')
    await press('End Maker of Skerry Wools')
    await press('Take Stockist from Skerry Wools')
    await type('A level or role for Skerry Wools', JSON.stringify({ giveRole: 'islander' }))
    await press('+ person')
    answers['GET people'] = everybody(listed('p-c', 'Cora Holm'))
    await type('Somebody for Skerry Wools', 'cora')
    await press('Cora Holm')
    expect(posted(calls)).toEqual(
      [
        { makeOwner: 'p-b' },
        { removePerson: 'p-b' },
        { endLevel: 3 },
        { takeRole: 'stockist' },
        { giveRole: 'islander' },
        { addPerson: 'p-c' },
      ].map(body => ['firms/skerry', body]),
    )
  })

  it('say their VAT number, which stays as it was typed where it does not fit', async () => {
    const told = 'VAT number has the form its country gives.'
    const { type, text, find, calls } = await mountScreen(Firms, {
      answers: { 'GET firms': [firm], 'PUT firms/skerry': refusal('bad-input', told) },
      data: startData({}, { ...wexlowRulebook, facts: [{ id: 'vat', name: 'VAT number', type: 'vatNumber' }] }),
    })
    await type('VAT number', 'IE 63')
    expect(text()).toContain(told)
    expect((find('VAT number') as HTMLInputElement).value).toBe('IE 63')
    expect(posted(calls)).toEqual([['firms/skerry', { fact: 'vat', value: 'IE 63' }]])
  })

  it('offer no staff role to share', async () => {
    const { find } = await firms()
    const offered = [...(find('A level or role for Skerry Wools') as HTMLSelectElement).options].map(option =>
      option.textContent!.trim(),
    )
    expect(offered).toEqual([
      '+ level or role',
      'Friend',
      'Maker',
      'Guild',
      'Classroom',
      'Test knitter',
      'Islander',
      'Correspondent of the quarterly broadsheet for handspinners',
    ])
  })

  it('keep what was typed when a name is taken', async () => {
    const { type, find, text, calls } = await firms({ 'POST firms': refusal('taken', 'There is a firm of that name.') })
    await type('Name of a new firm', 'Skerry Wools')
    document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
    expect(posted(calls)).toEqual([['firms', { id: 'skerry-wools', name: 'Skerry Wools' }]])
    expect([
      text().includes('There is a firm of that name.'),
      (find('Name of a new firm') as HTMLInputElement).value,
    ]).toEqual([true, 'Skerry Wools'])
  })
})
