import { flushPromises, mount } from '@vue/test-utils'
import { getActivePinia } from 'pinia'
import { describe, expect, it } from 'vitest'
import Conflict from '../../app/loft/frame/Conflict.vue'
import Page from '../../app/loft/who/groups/Group.vue'
import Pane from '../../app/loft/who/groups/GroupPane.vue'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { everybody, holdTimers, listed, mountScreen, refusal, startData } from './loft-screen'
import type { Answers } from './loft-screen'

const held = (id: number, level: string, until: string | null = null) => ({
  id,
  level,
  since: '2026-01-01T00:00:00Z',
  until,
})
const guda = listed('p-guda', 'Guda Moor', { memberships: [held(7, 'maker', '2027-03-01T00:00:00Z')] })
const stella = listed('p-stella', 'Stella Gull')
const gullhaven = {
  id: 'gullhaven',
  name: 'Gullhaven Knits',
  people: [{ id: 'p-stella', name: 'Stella Gull', email: 'stella@gull.example', owner: true }],
  count: 1,
  levels: [{ id: 3, level: 'maker', since: '2026-01-01T00:00:00Z', until: null }],
  roles: ['stockist'],
  facts: {},
}
const summary = {
  perDay: [],
  perKind: [
    { kind: 'view' as const, count: 41 },
    { kind: 'refused' as const, count: 3 },
  ],
  walls: [{ subjectKind: 'page', subjectId: 'gansey', gate: 'gansey', count: 3, people: 2 }],
  funnel: { signUps: 0, confirmed: 0, approved: 0, members: 0 },
}

const staffRoles = ['keeper', 'page-hand', 'shop-hand', 'front-desk']
/** Levels and visitor roles are told beside the loom, firms and staff roles on a page of their own. */
const group = (kind: string, id: string, answers: Answers = {}, data = startData()) =>
  mountScreen(kind === 'level' || (kind === 'role' && !staffRoles.includes(id)) ? Pane : Page, {
    props: { kind, id },
    answers: {
      'GET people': everybody(guda, stella),
      'GET firms': [gullhaven],
      'GET firms/gullhaven': gullhaven,
      'GET forms': [],
      'GET staff': { rules: [] },
      'GET activity': summary,
      'GET settings': { settings: {}, mailWorks: true } as never,
      ...answers,
    },
    data,
    at: { path: `/loft/groups/${kind}/${id}`, params: { kind, id } },
  })

describe("a group's page", () => {
  it('tells of a level, a role and a firm alike: what it opens, who holds it, what brings and names it, what its people did', async () => {
    const level = await group('level', 'maker')
    for (const words of [
      'level, rank',
      'Two colours a round',
      'Guda Moor until 1 Mar 2027',
      'Stella Gull through a level or firm',
      'Bought for €6.00 a month.',
      'Shared by the firm Gullhaven Knits.',
      'Technique libraryOpen to Maker or above',
      '41 pages seen',
      'The gansey course, 3 times',
    ])
      expect(level.text()).toContain(words)
    expect(level.calls.map(call => call.path)).toContain('activity?holding=level+maker&days=30')
    const role = await group('role', 'stockist')
    for (const words of ['visitor role', 'Trade desk', 'Shared by the firm Gullhaven Knits.', 'landing to /trade'])
      expect(role.text()).toContain(words)
    const firm = await group('firm', 'gullhaven')
    for (const words of ['firm', 'Two colours a round', 'Trade desk', 'Stella Gullowner', 'Gullhaven only'])
      expect(firm.text()).toContain(words)
    for (const [kind, id] of [
      ['level', 'gone'],
      ['role', 'gone'],
    ])
      expect((await group(kind!, id!)).text()).toContain(`There is no such ${kind}.`)
    const none = refusal('not-found', 'There is nothing of that name.')
    expect((await group('firm', 'gone', { 'GET firms/gone': none })).text()).toContain('There is no such firm')
    expect((await group('planet', 'mars')).text()).toContain('There is no such group.')
  })

  it('gives and takes a level, one by one and many at once', async () => {
    const timers = holdTimers()
    const { type, press, calls, text, answers } = await group('level', 'maker')
    answers['GET people'] = everybody(listed('p-pia', 'Pia Lain'))
    await type('Give Maker to somebody', 'pia')
    await timers.pass(200)
    await type('Until, if it ends', '2027-01-31')
    await press('Pia Lain')
    const sent = () => calls.filter(call => call.method !== 'GET').map(({ method, path, body }) => [method, path, body])
    expect(sent()).toEqual([
      ['POST', 'people/p-pia/holdings', { what: 'level', level: 'maker', until: '2027-02-01T00:00:00.000Z' }],
    ])
    expect(text()).toContain('Pia Lain has it now.')
    answers['GET people'] = everybody(guda, stella)
    const again = await group('level', 'maker')
    again.answers['POST people/bulk/preview'] = {
      chosen: 1,
      affected: 1,
      unchanged: 0,
      names: ['Guda Moor'],
      stamp: 's',
      staff: false,
    }
    await again.press('Tick Guda Moor')
    expect(again.text()).toContain('Take from them Maker.')
    await again.press('Do it')
    expect(again.calls.filter(call => call.path === 'people/bulk').map(call => call.body)).toEqual([
      { who: { ids: ['p-guda'] }, what: { do: 'takeLevel', level: 'maker' }, stamp: 's' },
    ])
  })

  it('is removed on its page, staff roles too, but not the one with the master key; a refusal brings it back', async () => {
    const { press, find, text, loft, answers } = await group('role', 'front-desk')
    expect(find('history').getAttribute('aria-expanded')).toBe('false')
    answers['DELETE entries/role/front-desk'] = refusal('in-use', 'Held by 1 person.')
    await press('Remove Front desk')
    await loft.settled()
    await flushPromises()
    expect(text()).toContain('Held by 1 person.')
    expect(loft.draft.roles!.some(role => role.id === 'front-desk')).toBe(true)
    delete answers['DELETE entries/role/front-desk']
    await press('Remove Front desk')
    await flushPromises()
    expect(text()).toContain('The draft takes it out.')
    const keeper = await group('role', 'keeper')
    expect(() => keeper.find('Remove Keeper')).toThrow()
  })

  it('that is removed while somebody gives it says so, and keeps what was typed', async () => {
    const timers = holdTimers()
    const { type, press, find, text, answers, loft } = await group('level', 'maker')
    answers['GET people'] = everybody(listed('p-pia', 'Pia Lain'))
    answers['POST people/p-pia/holdings'] = refusal('bad-input', 'There is no level “maker” any more.')
    await type('Give Maker to somebody', 'pia')
    await timers.pass(200)
    await press('Pia Lain')
    expect(text()).toContain('There is no level “maker” any more.')
    expect((find('Give Maker to somebody') as HTMLInputElement).value).toBe('pia')
    loft.change('level', 'maker', null)
    await flushPromises()
    expect(text()).toContain('The draft takes it out.')
  })

  it('takes a public name as the words they are, and shows a role to its holders only under one', async () => {
    const { type, find, loft, text, answers } = await group('role', 'islander')
    const islander = () => loft.draft.roles!.find(one => one.id === 'islander')!
    const shown = () => find('Whether holders of Islander are told') as HTMLSelectElement
    const called = 'What those who hold Islander are told it is called'
    expect(shown().disabled).toBe(true)
    await type(called, '<script>alert(1)</script>')
    expect(islander().publicName).toBe('<script>alert(1)</script>')
    expect(document.querySelector('main script, section script')).toBeNull()
    await type('Whether holders of Islander are told', 'yes')
    expect(islander()).toMatchObject({ shown: true })
    answers['PUT entries/role/islander'] = refusal('bad-input', 'A public name is one line.')
    await type(called, 'Islander of the north')
    await loft.settled()
    await flushPromises()
    expect(text()).toContain('A public name is one line.')
    expect(islander().publicName).toBe('Islander of the north')
  })

  it('gets something: a gate says so, for this alone or for all a gate stands before, and the page follows', async () => {
    const { type, press, text, loft } = await group('role', 'classroom')
    await type('What to give this group', 'trade desk')
    await flushPromises()
    await press('Trade desk page')
    await flushPromises()
    expect(text()).toContain('A gate on this alone, which then says Open to Stockists or Classrooms.')
    expect(text()).toContain('Or the gate “Trade desk”, with 8 more things')
    await press('Give them all it stands before')
    await flushPromises()
    expect(loft.draft.gates!.find(gate => gate.id === 'trade')!.open).toEqual({
      any: [{ role: { anyOf: ['stockist'] } }, { role: { anyOf: ['classroom'] } }],
    })
    expect(text()).toContain('Classroom gets the page “Trade desk” with the next edition.')
    expect(document.querySelector('[aria-label="What it opens"]')!.textContent).toContain('Trade desk')
    await type('What to give this group', 'the gansey course')
    await flushPromises()
    await press('The gansey course page')
    await flushPromises()
    await press('Give them this page')
    await flushPromises()
    expect(loft.draft.gates!.at(-1)).toMatchObject({ on: { page: 'gansey' }, inherit: false })
    expect(document.querySelector('[aria-label="What it opens"]')!.textContent).toContain('The gansey course')
    await type('What to give this group', 'welcome')
    await flushPromises()
    await press('Welcome to the mill page')
    await flushPromises()
    expect(text()).toContain('opens to Classroom already.')
  })

  it('is told when the gate was changed meanwhile, with both versions, and loses neither', async () => {
    const screen = await group('role', 'classroom')
    const theirs = { ...wexlowRulebook.gates!.find(gate => gate.id === 'trade')!, open: { signedIn: true } }
    screen.answers['PUT entries/gate/trade'] = Object.assign(
      refusal('changed-meanwhile', 'Mako changed this while you were editing.'),
      { extra: { current: { id: 1, revision: 4, body: theirs, changedBy: 'Mako' } } },
    )
    await screen.type('What to give this group', 'trade desk')
    await flushPromises()
    await screen.press('Trade desk page')
    await flushPromises()
    await screen.press('Give them all it stands before')
    await screen.loft.settled()
    await flushPromises()
    expect(screen.loft.conflict).toMatchObject({ message: 'Mako changed this while you were editing.' })
    expect(screen.loft.conflict!.mine).toMatchObject({ open: { any: [{}, { role: { anyOf: ['classroom'] } }] } })
    expect(screen.loft.conflict!.theirs).toMatchObject({ body: theirs })
    const told = mount(Conflict, { attachTo: document.body, global: { plugins: [getActivePinia()!] } })
    expect(told.text()).toContain('Mako changed this while you were editing.')
    expect(told.text()).toMatch(/theirs.*yours.*Classrooms/s)
    await told
      .findAll('button')
      .find(one => one.text().startsWith('Keep mine'))!
      .trigger('click')
    expect(screen.loft.conflict).toBeNull()
    told.unmount()
  })
})

describe('a new level or role', () => {
  it('offers its column, until it has one', async () => {
    const { find } = await group('role', 'stockist')
    expect(() => find('+ its column on Reach, for Stockist')).toThrow()
    const made = await mountScreen(Pane, { props: { kind: 'role', id: 'weaver' }, data: startData() })
    made.loft.change('role', 'weaver', { id: 'weaver', name: 'Weaver' })
    await flushPromises()
    await made.press('+ its column on Reach, for Weaver')
    expect(made.loft.draft.tiers!.at(-1)).toEqual({
      id: 'weaver',
      name: 'Weaver',
      note: 'role',
      visitor: { person: { id: 'tier-weaver', name: 'Weaver' }, roles: ['weaver'] },
    })
  })
})
