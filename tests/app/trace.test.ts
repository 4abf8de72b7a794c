import { describe, expect, it } from 'vitest'
import Activity from '../../app/pages/loft/activity.vue'
import { mountScreen, refusal } from './loft-screen'
import { led } from './nuxt-names'
import type { Answers, Call } from './loft-screen'

const line = (id: number, action: string, subject: string, more: object = {}) => ({
  id,
  at: '2026-11-24T09:05:00Z',
  who: 'Ines Varga',
  personId: 'p-ines',
  action,
  subject,
  about: null,
  detail: null,
  ...more,
})
const answer = {
  lines: [
    line(9, 'page.change', 'page trade', { detail: { title: 'Trade desk' } }),
    line(8, 'person.give-level', 'person p-guda', { about: 'Guda Moor' }),
    line(7, 'rules.change', 'level guild', { at: '2026-11-23T22:00:00Z', who: null, personId: null }),
    line(6, 'shop.something-new', 'crate 12', { at: '2026-11-23T21:00:00Z' }),
  ],
  more: 6,
}
const changes = (query: Record<string, string> = {}, answers: Answers = {}) =>
  mountScreen(Activity, {
    answers: { 'GET trace': answer, ...answers },
    at: { path: '/loft/activity', query: { tab: 'changes', ...query } },
  })
const asked = (calls: Call[]) =>
  calls
    .filter(call => call.path.startsWith('trace'))
    .map(call => Object.fromEntries(new URLSearchParams(call.path.slice(6))))

describe('who did what', () => {
  it('is said in words, day by day, with what was given to who may see it', async () => {
    const { text, find } = await changes()
    expect(text()).toContain('24 Nov 202609:05Ines Varga changed page “Trade desk”')
    expect(text()).toContain('"title": "Trade desk"')
    expect(text()).toContain('Ines Varga gave a level to Guda Moor')
    expect(text()).toContain('23 Nov 202622:00Somebody changed level “Guild”')
    expect(text()).toContain('something new: crate 12')
    expect((find('open') as HTMLAnchorElement).getAttribute('href')).toBe('/loft/people/p-guda')
  })

  it('is narrowed to a thing, a person or a day, and widened again', async () => {
    const { calls, find, type } = await changes({ subject: 'page trade', person: 'p-ines' })
    expect(asked(calls)).toEqual([{ subject: 'page trade', person: 'p-ines' }])
    const href = (name: string) => (find(name) as HTMLAnchorElement).getAttribute('href')
    expect(href('Not only by Ines Varga')).toBe('/loft/activity?tab=changes&subject=page+trade')
    expect(href('Not only about page “Trade desk”')).toBe('/loft/activity?tab=changes&person=p-ines')
    expect(href('level “Guild”')).toBe('/loft/activity?tab=changes&subject=level+guild&person=p-ines')
    expect(href('all changes')).toBe('/loft/activity?tab=changes')
    await type('on the day', '2026-11-24')
    expect(led).toEqual(['/loft/activity?tab=changes&subject=page+trade&person=p-ines&day=2026-11-24'])
  })

  it('goes on with what was done before', async () => {
    const { calls, press, answers, text } = await changes()
    answers['GET trace'] = { lines: [line(2, 'firm.add', 'firm sett')], more: null }
    await press('What was done before')
    expect(asked(calls)).toEqual([{}, { before: '6' }])
    expect(text()).toContain('added firm sett')
    expect(text()).not.toContain('What was done before')
  })

  it('says that there is nothing, or what went wrong', async () => {
    const none = { 'GET trace': { lines: [], more: null } }
    expect((await changes({}, none)).text()).toContain('Nobody has changed anything yet.')
    expect((await changes({ day: '2026-01-01' }, none)).text()).toContain('Nothing was done that fits.')
    expect((await changes({}, { 'GET trace': refusal('internal', 'No answer.') })).text()).toContain('No answer.')
  })
})
