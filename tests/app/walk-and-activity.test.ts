import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import Activity from '../../app/pages/loft/activity.vue'
import Walk from '../../app/components/loft/Walk.vue'
import type { LoftAnswer } from '../../app/composables/loft-api'
import { startData, mountScreen, refusal } from './loft-screen'
import type { Answers, Call, Mounting } from './loft-screen'

let passes = 0
const walk = (mounting: Mounting = {}) => {
  passes = 0
  return mountScreen(Walk, {
    answers: { 'POST walk': () => ({ base: `/walk/pass-${++passes}`, expires: 900 }), ...mounting.answers },
    ...mounting,
  })
}
const asked = (calls: Call[]) =>
  calls
    .filter(call => call.path === 'walk')
    .map(call => call.body as { tier: string; visitor: { request?: object }; draft: boolean })
const frames = () => [...document.querySelectorAll('iframe')].map(frame => frame.getAttribute('src'))

describe('a walk', () => {
  it('begins where it was led, as the tier it was led with', async () => {
    const { calls } = await walk({
      at: { path: '/loft/site', query: { tab: 'walk', path: '/techniques/gansey', tier: 'guild' } },
    })
    expect(asked(calls)).toMatchObject([{ tier: 'Guild', draft: true }])
    expect(frames()).toEqual(['/walk/pass-1/techniques/gansey'])
  })

  it('never leads off the site, wherever its address came from', async () => {
    await walk({ at: { query: { path: '//elsewhere.example' } } })
    expect(frames()).toEqual(['/walk/pass-1/'])
    const { type, text } = await walk()
    await type('Address on the site', 'https://elsewhere.example')
    expect(text()).toContain('An address of the site starts with one slash.')
    expect(frames()).toEqual(['/walk/pass-1/'])
  })

  it('goes side by side, each pane with a pass of its own', async () => {
    const { press, type, calls, key } = await walk()
    await press('+ another tier beside')
    expect(frames()).toHaveLength(2)
    await type('The second tier', 'stockist')
    await type('Address on the site', '/trade')
    expect(frames().map(src => src!.replace(/pass-\d+/, 'pass'))).toEqual(['/walk/pass/trade', '/walk/pass/trade'])
    expect(asked(calls).map(one => one.tier)).toEqual(['Guest', 'Signed in', 'Stockist'])
    await key(document.body, '5', { code: 'Digit5' })
    await key(document.body, '3', { code: 'Digit3', shiftKey: true })
    expect(
      asked(calls)
        .slice(-2)
        .map(one => one.tier),
    ).toEqual(['Guild', 'Friend'])
    await press('close')
    expect(frames()).toHaveLength(1)
  })

  it('asks anew for another time, country, or the live rules', async () => {
    const { press, loft, calls } = await walk()
    loft.context = { at: '2026-12-24T12:00:00Z', country: 'ES', device: 'phone', asIf: null }
    await flushPromises()
    await press('Live')
    expect(asked(calls).slice(1)).toMatchObject([
      { visitor: { request: { at: '2026-12-24T12:00:00Z', country: 'ES', device: 'phone' } }, draft: true },
      { draft: false },
    ])
  })

  it('shows what is typed in the draft only once it is saved', async () => {
    const { press, loft, calls } = await walk()
    loft.change('level', 'guild', { id: 'guild', name: 'The Guild', rank: 30 })
    await press('+ another tier beside')
    await loft.settled()
    await flushPromises()
    expect(calls.map(call => `${call.method} ${call.path}`).slice(1)).toEqual(['PUT entries/level/guild', 'POST walk'])
  })

  it('says why it cannot go', async () => {
    const { text } = await walk({
      answers: { 'POST walk': refusal('not-allowed', 'Your roles do not look at gates.') },
    })
    expect(text()).toContain('Your roles do not look at gates.')
    expect(frames()).toEqual([])
  })
})

const today = new Date().toLocaleDateString('sv-SE', { timeZone: 'Europe/Dublin' })
const summary: LoftAnswer<'GET activity'> = {
  perDay: [
    { day: today, tier: 'guest', count: 5 },
    { day: today, tier: 'guild', count: 2 },
    { day: today, tier: 'staff', count: 1 },
  ],
  perKind: [
    { kind: 'view', count: 6 },
    { kind: 'refused', count: 2 },
  ],
  walls: [{ subjectKind: 'page', subjectId: 'trade', gate: 'trade', count: 2, people: 1 }],
  funnel: { signUps: 8, confirmed: 6, approved: 5, members: 2 },
}
const rows: LoftAnswer<'GET activity/list'>['rows'] = [
  {
    at: '2026-11-20T22:15:00Z',
    kind: 'refused',
    subjectKind: 'page',
    subjectId: 'trade',
    gate: 'trade',
    tier: 'guild',
    personId: 'p-guda',
    name: 'Guda Moor',
    detail: {},
  },
  {
    at: '2026-11-20T22:10:00Z',
    kind: 'view',
    subjectKind: 'page',
    subjectId: 'welcome',
    gate: null,
    tier: 'guest',
    personId: null,
    name: null,
    detail: {},
  },
]
const activity = (answers: Answers = {}) =>
  mountScreen(Activity, {
    answers: { 'GET activity': summary, 'GET activity/list': { rows, count: 240 }, ...answers },
    data: startData(),
  })
const lists = (calls: Call[]) =>
  calls
    .filter(call => call.path.startsWith('activity/list'))
    .map(call => Object.fromEntries(new URLSearchParams(call.path.split('?')[1])))

describe('activity', () => {
  it('is counted per day and tier, each tier in its thread, the newest day last', async () => {
    const { wrapper, find } = await activity()
    const { data } = wrapper.findComponent({ name: 'Bar' }).props() as {
      data: { labels: string[]; datasets: { label: string; data: number[]; backgroundColor: string }[] }
    }
    expect(data.labels).toHaveLength(30)
    expect(data.datasets.map(one => [one.label, one.data.at(-1), one.backgroundColor])).toEqual([
      ['Guest', 5, '#7d827a'],
      ['Guild', 2, '#5a3f8c'],
      ['Staff', 1, '#b0a998'],
    ])
    expect(find('8 in 30 days: Guest 5, Guild 2, Staff 1')).toBeTruthy()
  })

  it('opens the list behind each number', async () => {
    const { press, text, calls } = await activity()
    await press('Guild 2')
    await press('Trade desk by Trade desk2')
    await press('the list behind the 8')
    expect(lists(calls)).toEqual([
      { days: '30', tier: 'guild' },
      { days: '30', kind: 'refused', subject: 'trade', gate: 'trade' },
      { days: '30' },
    ])
    expect(text()).toContain('Guda Moor was refused at Trade desk')
    expect(text()).toContain('20 Nov 2026, 22:15 · Trade desk')
    expect(text()).toContain('Guest saw Welcome to the mill')
    expect(text()).toContain('The newest 2 of 240.')
  })

  it('counts one kind, over a week or a quarter', async () => {
    const { press, calls, text } = await activity()
    await press('2 refusals')
    await press('90 days')
    expect(calls.map(call => call.path)).toEqual([
      'activity?days=30',
      'activity?days=30&kind=refused',
      'activity?days=90&kind=refused',
    ])
    expect(text()).toContain('Refusals per day, by tier')
  })

  it('leads from each step of joining to the people who took it', async () => {
    const { find } = await activity()
    expect((find('were let in5') as HTMLAnchorElement).getAttribute('href')).toBe('/loft/people?stage=approved&days=30')
  })

  it('says what it could not read', async () => {
    const { text } = await activity({ 'GET activity': refusal('internal', 'The database does not answer.') })
    expect(text()).toContain('The database does not answer.')
  })
})
