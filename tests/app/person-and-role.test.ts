import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import Person from '../../app/loft/people/Person.vue'
import Role from '../../app/loft/who/groups/Group.vue'
import Pane from '../../app/loft/who/groups/GroupPane.vue'
import type { LoftAnswer } from '../../app/loft/core/loft-api'
import { everybody, listed, startData, mountScreen, refusal } from './loft-screen'
import type { Answers, Call } from './loft-screen'
import { led } from './nuxt-names'

const guda: LoftAnswer<'GET people/:id'> = {
  person: {
    id: 'p-guda',
    name: 'Guda Moor',
    email: 'guda@wexlow.example',
    createdAt: '2026-01-05T10:00:00Z',
    standing: 'active',
    memberships: [{ id: 7, level: 'guild', since: '2026-01-05T10:00:00Z', until: null }],
    roles: ['islander'],
    firm: { id: 'skerry', name: 'Skerry Wools' },
  },
  visitor: {
    person: { id: 'p-guda', name: 'Guda Moor' },
    levels: [{ level: 'guild', since: '2026-01-05T10:00:00Z' }],
    roles: ['islander'],
    facts: { spindles: 4, hall: 'north' },
  },
  memberships: [
    {
      id: 7,
      level: 'guild',
      since: '2026-01-05T10:00:00Z',
      until: null,
      personId: 'p-guda',
      source: 'bought',
      paidFrom: '2026-01-05T10:00:00Z',
      paidUntil: '2027-01-05T10:00:00Z',
      paidAmount: 8400,
      anchorDay: 5,
      renews: true,
      renewAs: null,
      endedBy: null,
      grantedBy: 'purchase',
    },
  ],
  purchases: [
    {
      number: 3,
      level: 'guild',
      amount: 8400,
      state: 'paid',
      createdAt: '2026-01-05T10:00:00Z',
      order: null,
      asked: false,
    },
  ],
  applications: [],
  sessions: [{ id: 's', agent: 'A browser', createdAt: '2026-11-19T08:00:00Z', seenAt: '2026-11-20T22:15:00Z' }],
  notes: [{ id: 1, personId: 'p-guda', at: '2026-02-01T10:00:00Z', by: 'Dace', text: 'Teaches welts.' }],
}
const byGuda = { tier: 'guild', personId: 'p-guda', name: 'Guda Moor', gate: null, times: 1, detail: {} }
const did: LoftAnswer<'GET activity/list'>['rows'] = [
  { ...byGuda, at: '2026-11-20T22:14:00Z', kind: 'refused', subjectKind: 'page', subjectId: 'trade' },
  // Not every activity is about a thing of the site.
  { ...byGuda, at: '2026-11-20T22:14:00Z', kind: 'member', subjectKind: 'level', subjectId: 'guild' },
  { ...byGuda, at: '2026-11-20T22:13:00Z', kind: 'signIn', subjectKind: null, subjectId: null },
]
const staffRules: LoftAnswer<'GET staff'>['rules'] = [
  { role: 'front-desk', kind: 'people', actions: ['look', 'change'], fields: ['notes'], whose: 'anyone' },
]
const person = (answers: Answers = {}, everything: LoftAnswer<'GET people/:id'> = guda, data = startData()) =>
  mountScreen(Person, {
    answers: {
      'GET people/p-guda': everything,
      'GET activity/list': { rows: did, count: did.length },
      'GET staff': { rules: staffRules },
      ...answers,
    },
    at: { params: { id: 'p-guda' } },
    data,
  })
const sent = (calls: Call[]) =>
  calls.filter(call => call.method !== 'GET').map(({ method, path, body }) => [`${method} ${path}`, body])

describe("a person's page", () => {
  it('tells what they hold, held, paid, did and what the staff wrote', async () => {
    const { text } = await person()
    for (const words of [
      'guda@wexlow.example · active · since 5 Jan 2026 · Skerry Wools',
      'Guild 5 Jan 2026 on · bought, renews',
      '€84.00',
      'Teaches welts.',
      '20 Nov 2026, 22:14was refused at Trade desk',
      '20 Nov 2026, 22:15 A browser',
    ])
      expect(text()).toContain(words)
  })

  it('is the reach board of exactly this person, with the reason for each thing', async () => {
    const { text, press } = await person()
    expect(text()).toMatch(/opens \d+ of \d+ · lands on \/techniques after signing in/)
    await press('Trade deskunseen')
    expect(text()).toContain('Guda Moor does not see Trade desk: it is in no list and its address leads nowhere.')
    expect(text()).toContain('Open to Stockists (not met)')
  })

  it('is walked as, in the chosen time and country', async () => {
    const open = vi.fn()
    vi.stubGlobal('open', open)
    const { press, loft, calls } = await person({ 'POST walk': { base: '/walk/xyz', expires: 900 } })
    loft.context = { at: '2026-12-24T12:00:00Z', country: 'ES', device: null, looks: [] }
    await press('Walk as Guda Moor')
    expect(sent(calls)).toEqual([
      [
        'POST walk',
        {
          tier: 'Guda Moor',
          visitor: { ...guda.visitor, request: { at: '2026-12-24T12:00:00Z', country: 'ES' } },
          draft: false,
        },
      ],
    ])
    expect(open).toHaveBeenCalledWith('/walk/xyz/', '_blank', 'noopener')
  })

  it('changes facts by their kind, and leaves the others as they are', async () => {
    const { type, calls } = await person()
    await type('Spindles owned', '6')
    await type('Guild hall', '')
    expect(sent(calls)).toEqual([
      ['PUT people/p-guda', { facts: { spindles: 6 } }],
      ['PUT people/p-guda', { facts: { hall: null } }],
    ])
  })

  it('keeps a note that could not be saved', async () => {
    const { type, find, text, answers } = await person({
      'POST people/p-guda/notes': refusal('too-large', 'A note has 4,000 letters at most.'),
    })
    await type('A note about Guda Moor', 'Lends her loom.')
    const submit = async () => {
      find('A note about Guda Moor')
        .closest('form')!
        .dispatchEvent(new Event('submit', { cancelable: true }))
      await flushPromises()
    }
    await submit()
    expect([
      text().includes('A note has 4,000 letters at most.'),
      (find('A note about Guda Moor') as HTMLInputElement).value,
    ]).toEqual([true, 'Lends her loom.'])
    delete answers['POST people/p-guda/notes']
    await submit()
    expect((find('A note about Guda Moor') as HTMLInputElement).value).toBe('')
  })

  it('suspends, signs out, gives money back, and removes only by name', async () => {
    const { press, type, find, calls, text } = await person()
    await press('Suspend')
    expect(text()).toContain('Signed out everywhere, and shut out.')
    await press('Sign them out everywhere')
    await press('give the money back')
    await press('Remove…')
    expect((find('Remove Guda Moor') as HTMLButtonElement).disabled).toBe(true)
    await type('Their name', 'Guda Moor')
    await press('Remove Guda Moor')
    expect(sent(calls)).toEqual([
      ['PUT people/p-guda', { suspended: true }],
      ['DELETE people/p-guda/sessions', undefined],
      ['POST purchases/3/refund', undefined],
      ['DELETE people/p-guda', undefined],
    ])
    expect(led).toEqual(['/loft/people'])
  })

  it('sums what their staff roles let them do', async () => {
    const desk = await person({}, { ...guda, person: { ...guda.person, roles: ['front-desk'] } })
    expect(desk.text()).toContain('Look at and change notes of people, as Front desk.')
    const keeper = await person({}, { ...guda, person: { ...guda.person, roles: ['keeper'] } })
    expect(keeper.text()).toContain('Everything: they hold the master key.')
  })

  it('shows no more than one may look at, and changes no more than one may', async () => {
    const { find, text } = await person(
      {},
      guda,
      startData({
        me: {
          id: 'p',
          name: 'P',
          masterKey: false,
          roles: ['front-desk'],
          rules: [
            { role: 'front-desk', kind: 'people', actions: ['look', 'change'], fields: ['notes'], whose: 'anyone' },
          ],
        },
      }),
    )
    expect((find('Name') as HTMLInputElement).disabled).toBe(true)
    expect(text()).not.toContain('May reach')
    for (const name of ['Suspend', 'Remove…', 'Walk as Guda Moor', 'give the money back'])
      expect(() => find(name), name).toThrow()
    expect(find('A note about Guda Moor')).toBeTruthy()
  })
})

const role = (id: string, answers: Answers = {}) =>
  mountScreen(['front-desk', 'keeper'].includes(id) ? Role : Pane, {
    props: { kind: 'role', id },
    answers: {
      'GET people': everybody(listed('p-a', 'Ada Lund', { roles: [id] }), listed('p-b', 'Bo Eide')),
      'GET staff': { rules: staffRules },
      'GET forms': [],
      ...answers,
    },
    at: { params: { kind: 'role', id } },
  })

describe("a role's page", () => {
  it('shows its holders, also through a level or firm, what it opens and what depends on it', async () => {
    const { text } = await role('stockist')
    expect(text()).toContain('Ada Lund')
    expect(text()).toContain('Bo Eide through a level or firm')
    expect(text()).toContain('Trade desk/trade')
    for (const words of ['Trade deskOpen to Stockists', 'Footer for the trade', 'landing to /trade', 'tier Stockist'])
      expect(text()).toContain(words)
  })

  it('says what a staff role may do, and that the master key is fixed', async () => {
    expect((await role('front-desk')).text()).toContain('Look at and change notes of people.')
    const keeper = await role('keeper')
    expect(keeper.text()).toContain('staff role, holds the master key')
    expect(keeper.text()).toContain('Everything. This role is fixed.')
    expect(keeper.text()).toContain("the site's settings")
    expect((keeper.find('See drafts') as HTMLButtonElement).disabled).toBe(true)
  })

  it("carries named permissions of the site's own", async () => {
    const { press, type, loft } = await role('classroom')
    await press('See drafts')
    expect(loft.draft.roles!.find(one => one.id === 'classroom')!.permissions).toEqual(['see-drafts'])
    await press('See drafts')
    expect(loft.draft.roles!.find(one => one.id === 'classroom')).not.toHaveProperty('permissions')
    await type('Name of a new permission', 'Borrow looms')
    document
      .querySelector('[aria-label="Name of a new permission"]')!
      .closest('form')!
      .dispatchEvent(new Event('submit', { cancelable: true }))
    expect(loft.draft.permissions!.at(-1)).toEqual({ id: 'borrow-looms', name: 'Borrow looms' })
  })

  it('opens applications for it, with questions, and writes over nothing it could not read', async () => {
    const { press, type, calls, text } = await role('test-knitter')
    await press('Anybody signed in can apply')
    expect(text()).toContain('Open: people can apply now.')
    await type('A question to ask', 'How many hours a week?')
    document
      .querySelector('[aria-label="A question to ask"]')!
      .closest('form')!
      .dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
    await press('take out the question How many hours a week?')
    const form = { open: true, intro: '' }
    expect(sent(calls)).toEqual(
      [
        { ...form, questions: [] },
        { ...form, questions: ['How many hours a week?'] },
        { ...form, questions: [] },
      ].map(body => [`PUT forms/${encodeURIComponent('role test-knitter')}`, body]),
    )
    const unread = await role('test-knitter', { 'GET forms': refusal('internal', 'The database does not answer.') })
    expect(unread.text()).toContain('The database does not answer.')
    expect(() => unread.find('Anybody signed in can apply')).toThrow()
  })

  it('that is not there says so', async () => {
    expect((await role('gone')).text()).toContain('There is no such role.')
  })
})
