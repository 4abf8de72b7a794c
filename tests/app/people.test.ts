import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import PeopleDialogs from '../../app/loft/people/PeopleDialogs.vue'
import PeopleList from '../../app/loft/people/PeopleList.vue'
import { everybody, holdTimers, listed, startData, mountScreen, refusal } from './loft-screen'
import type { LoftAnswer } from '../../app/loft/core/loft-api'
import type { Answers, Call, Mounting } from './loft-screen'

const joined = { createdAt: '2026-01-05T10:00:00Z' }
const guda = listed('p-guda', 'Guda Moor', {
  ...joined,
  memberships: [
    { id: 7, level: 'guild', since: '2026-01-05T10:00:00Z', until: null },
    { id: 3, level: 'maker', since: '2025-01-05T10:00:00Z', until: '2025-06-05T10:00:00Z' },
  ],
  roles: ['islander'],
})
const pia = listed('p-pia', 'Pia Lain', { ...joined, standing: 'suspended' })
const found = everybody(guda, pia)
const preview = { chosen: 2, affected: 1, unchanged: 1, names: ['Pia Lain'], stamp: 'abc', staff: false }
const list = (answers: Answers = {}, mounting: Mounting = {}) =>
  mountScreen(PeopleList, {
    answers: {
      'GET people': found,
      'GET people/bulk': [],
      'POST people/bulk/preview': preview,
      'POST people/bulk': { id: 1, affected: 1 },
      ...answers,
    },
    ...mounting,
  })
const askedFor = (calls: Call[]) =>
  calls
    .filter(call => call.path.startsWith('people?'))
    .map(call => JSON.parse(new URLSearchParams(call.path.split('?')[1]).get('q')!) as object)
const sent = (calls: Call[]) =>
  calls.filter(call => call.method !== 'GET').map(({ method, path, body }) => [`${method} ${path}`, body])
/** Longer than a list waits for more to be typed. */
const pauseMs = 250

describe('the list of people', () => {
  it('says who they are, what they hold now, and how they stand', async () => {
    const { text } = await list()
    expect(text()).toContain('2 people')
    expect(text()).toContain('Guda Moorp-guda@wexlow.exampleGuildIslander')
    expect(text()).toContain('Pia Lainsuspended')
  })

  it('is sifted by words, standing and a sentence, and unticks who was ticked before', async () => {
    const timers = holdTimers()
    const { type, press, key, find, calls } = await list()
    await press('Tick Guda Moor')
    expect((find('Tick Guda Moor') as HTMLInputElement).checked).toBe(true)
    await type('Find people by name or address', ' foss ')
    await type('Standing', 'waiting')
    await press('+ who are…')
    await type('Who the list is about', 'guild or above')
    await key(find('Who the list is about'), 'Enter')
    await timers.pass(pauseMs)
    expect(askedFor(calls).at(-1)).toEqual({
      search: 'foss',
      standing: 'waiting',
      condition: { level: { atLeast: 'guild' } },
    })
    expect((find('Tick Guda Moor') as HTMLInputElement).checked).toBe(false)
    await press('everybody again')
    await timers.pass(pauseMs)
    expect(askedFor(calls).at(-1)).toEqual({ search: 'foss', standing: 'waiting' })
  })

  it('goes on where it ended', async () => {
    const { press, calls, answers, text } = await list({ 'GET people': { ...found, count: 3, more: true } })
    answers['GET people'] = { people: [listed('p-rask', 'Tilde Rask', joined)], count: 3, more: false }
    await press('Show more')
    expect(askedFor(calls).at(-1)).toEqual({ after: { name: 'Pia Lain', id: 'p-pia' } })
    expect(text()).toContain('Guda Moor')
    expect(text()).toContain('Tilde Rask')
  })

  it('of a stage of joining is the one its number led from', async () => {
    const timers = holdTimers()
    const { text, press, calls } = await list({}, { at: { query: { stage: 'bought', days: '90' } } })
    expect(askedFor(calls)[0]).toEqual({ stage: { reached: 'bought', days: 90 } })
    expect(text()).toContain('signed up in the last 90 days and bought a level')
    await press('signed up in the last')
    await timers.pass(pauseMs)
    expect(askedFor(calls).at(-1)).toEqual({})
  })

  it('offers no change to who may only look', async () => {
    const { find, text } = await list(
      {},
      {
        data: startData({
          me: {
            id: 'p',
            name: 'P',
            masterKey: false,
            roles: ['front-desk'],
            rules: [{ role: 'front-desk', kind: 'people', actions: ['look'], whose: 'anyone' }],
          },
        }),
      },
    )
    expect(text()).toContain('Guda Moor')
    for (const name of ['Tick Guda Moor', '+ Person', 'Import', 'Invite']) expect(() => find(name), name).toThrow()
  })
})

describe('a change of many', () => {
  it('says whom it moves before it is done, and sends what it said', async () => {
    const { press, type, text, calls } = await list()
    await press('Tick Guda Moor')
    await press('Tick Pia Lain')
    expect(text()).toContain('2 people ticked')
    await type('Which role', 'stockist')
    expect(text()).toContain('1 person gets it, 1 has it already.')
    await press('Do it')
    const who = { ids: ['p-guda', 'p-pia'] }
    expect(sent(calls)).toEqual([
      ['POST people/bulk/preview', { who, what: { do: 'giveRole', role: 'stockist' } }],
      ['POST people/bulk', { who, what: { do: 'giveRole', role: 'stockist' }, stamp: 'abc' }],
    ])
    expect(text()).not.toContain('ticked')
  })

  it('leads from one role to another, once both are said', async () => {
    const { press, type, text, calls } = await list()
    await press('Tick Guda Moor')
    await type('What to do', 'moveRole')
    await type('Which role', 'stockist')
    expect(sent(calls)).toEqual([])
    await type('Which role instead', 'islander')
    expect(text()).toContain('from Stockist to Islander in one step')
    await press('Do it')
    expect(sent(calls).at(-1)).toEqual([
      'POST people/bulk',
      { who: { ids: ['p-guda'] }, what: { do: 'moveRole', role: 'stockist', to: 'islander' }, stamp: 'abc' },
    ])
  })

  it('of everybody found goes by what was asked, not by who is shown', async () => {
    const { press, type, calls } = await list()
    await press('Tick all 2 people found')
    await type('What to do', 'takeLevel')
    await type('Which level', 'guild')
    expect(sent(calls)[0]).toEqual([
      'POST people/bulk/preview',
      { who: { query: {} }, what: { do: 'takeLevel', level: 'guild' } },
    ])
  })

  it("gives a level until the end of a day on the site's own clock", async () => {
    const { press, type, calls } = await list()
    await press('Tick Pia Lain')
    await type('What to do', 'giveLevel')
    await type('Which level', 'maker')
    await type('until, if it ends', '2027-07-01')
    expect(sent(calls).at(-1)![1]).toMatchObject({ what: { level: 'maker', until: '2027-07-01T23:00:00.000Z' } })
  })

  it('hands out a staff role only once the role and the number are typed', async () => {
    const { press, type, text, calls, find } = await list({ 'POST people/bulk/preview': { ...preview, staff: true } })
    await press('Tick Pia Lain')
    await type('Which role', 'shop-hand')
    await press('Do it')
    expect(text()).toContain('1 person would become Shop hand and enter the loft. Type Shop hand 1 to go on.')
    const make = () => find('Make 1 person Shop hand') as HTMLButtonElement
    expect(make().disabled).toBe(true)
    await type('The role and the number of people', 'shop hand 1')
    expect(make().disabled).toBe(false)
    await press('Make 1 person Shop hand')
    expect(sent(calls).at(-1)).toEqual([
      'POST people/bulk',
      {
        who: { ids: ['p-pia'] },
        what: { do: 'giveRole', role: 'shop-hand' },
        stamp: 'abc',
        confirm: { role: 'shop-hand', count: 1 },
      },
    ])
  })

  it("that meets somebody else's change says so, and looks again", async () => {
    const { press, type, text, calls, answers } = await list({
      'POST people/bulk': refusal('changed-meanwhile', 'Somebody changed these people meanwhile.'),
    })
    await press('Tick Pia Lain')
    await type('Which role', 'stockist')
    answers['POST people/bulk/preview'] = { ...preview, affected: 0, unchanged: 1, names: [], stamp: 'def' }
    await press('Do it')
    expect(text()).toContain('Somebody changed these people meanwhile.')
    expect(text()).toContain('0 people get it')
    expect(sent(calls).map(([what]) => what)).toEqual([
      'POST people/bulk/preview',
      'POST people/bulk',
      'POST people/bulk/preview',
    ])
  })

  it('is undone as one, from the list of what was changed together', async () => {
    const logged: LoftAnswer<'GET people/bulk'>[number] = {
      id: 4,
      at: '2026-11-24T09:00:00Z',
      by: 'Ines Varga',
      what: { do: 'giveRole', role: 'stockist' },
      people: 12,
      undoneAt: null,
    }
    const { press, text, calls } = await list({ 'GET people/bulk': [logged] })
    expect(text()).toContain('got Stockist')
    await press('Undo: 12 got Stockist')
    expect(sent(calls)).toEqual([['POST people/bulk/4/undo', undefined]])
  })
})

describe('one person', () => {
  it('shows what they hold and held, and gives and takes it', async () => {
    const { press, type, text, calls } = await list({}, { at: { query: { person: 'p-guda' } } })
    expect(text()).toContain('Guildfrom 5 Jan 2026')
    expect(text()).toContain('Makerfrom 5 Jan 2025 until 5 Jun 2025')
    await press('Take Guild from Guda Moor')
    await type('Level to give', 'friend')
    find('Level to give')
      .closest('form')!
      .dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
    await press('Take Islander from Guda Moor')
    expect(sent(calls)).toEqual([
      ['DELETE people/p-guda/holdings', { membership: 7 }],
      ['POST people/p-guda/holdings', { what: 'level', level: 'friend' }],
      ['DELETE people/p-guda/holdings', { role: 'islander' }],
    ])
    function find(name: string) {
      return document.querySelector<HTMLElement>(`[aria-label="${name}"]`)!
    }
  })

  it('becomes staff only when that is said a second time', async () => {
    const { press, type, text, calls } = await list({}, { at: { query: { person: 'p-pia' } } })
    await type('Role to give', 'front-desk')
    document
      .querySelector('[aria-label="Role to give"]')!
      .closest('form')!
      .dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
    expect(sent(calls)).toEqual([])
    expect(text()).toContain('Pia Lain becomes Front desk and enters the loft. One person.')
    await press('Make Pia Lain Front desk')
    expect(sent(calls)).toEqual([
      ['POST people/p-pia/holdings', { what: 'role', role: 'front-desk', confirm: 'front-desk' }],
    ])
  })
})

describe('people from a file', () => {
  const chooseFile = async (text: string) => {
    const field = document.querySelector<HTMLInputElement>('input[type=file]')!
    Object.defineProperty(field, 'files', { value: [new File([text], 'people.csv')], configurable: true })
    field.dispatchEvent(new Event('change'))
    await flushPromises()
  }

  it('are tried first: what is wrong is told by line, and nothing can be taken over', async () => {
    const plan = {
      people: 0,
      problems: [{ line: 3, column: 'levels', message: 'There is no level “gild”.' }],
      sample: [],
    }
    const { text, find } = await mountScreen(PeopleDialogs, {
      props: { modelValue: 'import' },
      answers: { 'POST people/import': plan },
    })
    await chooseFile('name,email\n')
    expect(text()).toContain('1 thing is not right; nothing would be taken over.')
    expect(text()).toContain('Line 3, levels: There is no level “gild”.')
    expect((find('Take over') as HTMLButtonElement).disabled).toBe(true)
  })

  it('are taken over once the trial found nothing, and counted', async () => {
    const { text, press, calls } = await mountScreen(PeopleDialogs, {
      props: { modelValue: 'import' },
      answers: { 'POST people/import': { people: 2, problems: [] } },
    })
    await chooseFile('name,email\nAda,ada@wexlow.example\nBo,bo@wexlow.example\n')
    expect(text()).toContain('2 people would be taken over.')
    await press('Take over')
    expect(calls.map(call => call.path)).toEqual(['people/import?dry=1', 'people/import'])
    expect(text()).toContain('2 people taken over.')
  })
})
