import { describe, expect, it } from 'vitest'
import Activity from '../../app/pages/loft/activity.vue'
import type { LoftAnswer } from '../../app/loft/core/loft-api'
import { startData, mountScreen, refusal } from './loft-screen'
import type { Answers, Call } from './loft-screen'

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
    times: 1,
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
    times: 1,
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
