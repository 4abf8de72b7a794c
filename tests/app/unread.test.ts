import { flushPromises } from '@vue/test-utils'
import { defineComponent, h } from 'vue'
import { expect, it, vi } from 'vitest'
import Unread from '../../app/loft/frame/Unread.vue'
import BulkLog from '../../app/loft/people/BulkLog.vue'
import { useSitePage } from '../../app/loft/kit/sheet/site-page'
import { mountScreen, refusal, startData } from './loft-screen'

const Both = defineComponent(() => () => [h(Unread), h(BulkLog)])
const done = [
  { id: 3, at: '2026-11-24T09:05:00Z', by: 'Ines Varga', what: { do: 'give-role', role: 'trade' }, people: 4 },
]

it('what could not be read is named, never taken for nothing, and asked for again', async () => {
  const { text, press, answers } = await mountScreen(Both, {
    answers: { 'GET people/bulk': refusal('offline', 'The server does not answer.') },
  })
  expect(text()).toBe('Could not be read: changes of many people. Try again')
  await press('Try again')
  expect(text()).toContain('Could not be read')
  answers['GET people/bulk'] = done.map(one => ({ ...one, undoneAt: null })) as never
  await press('Try again')
  await flushPromises()
  expect(text()).not.toContain('Could not be read')
  expect(text()).toContain('Changed together4')
})

it('what is not for one to see is not missed', async () => {
  const { text } = await mountScreen(Both, {
    answers: { 'GET people/bulk': refusal('not-allowed', 'That is not yours to do.') },
  })
  expect(text()).toBe('')
})

const Page = defineComponent(() => {
  const { answer, reading } = useSitePage('all of this page', () => ({ path: '/visit', tier: 'guest', picked: {} }))
  return () => [h(Unread), h('p', reading.value ? 'Reading' : JSON.stringify(answer.value))]
})

it('a page of which not all could be read says so, and is whole once it is', async () => {
  // A row nobody has read before: the core remembers those it was told.
  const row = { id: 4711, revision: 1 }
  const { text, press, answers } = await mountScreen(Page, {
    data: startData({ versions: startData().versions.map(one => ({ ...one, ...row })) }),
    answers: { 'GET things': refusal('internal', 'The database does not answer.') },
  })
  const says = (words: string) => vi.waitUntil(() => text().includes(words))
  await says('"title":"Visit the mill"')
  expect(text()).toContain('Could not be read: all of this page. Try again')
  // A part of it says so itself, and not that it is somebody else's to look at.
  expect(text()).toContain('"unread":true')
  expect(text()).not.toContain('The kettle is on')
  await press('Try again')
  await says('Could not be read: all of this page. Try again')
  answers['GET things'] = [
    { kind: 'page', id: 'visit', version: row, thing: { body: { markdown: 'The kettle is on' } } },
  ] as never
  await press('Try again')
  await says('The kettle is on')
  expect(text()).not.toMatch(/Could not be read|"unread":true/)
})
