import { flushPromises } from '@vue/test-utils'
import { defineComponent, h } from 'vue'
import { expect, it } from 'vitest'
import Unread from '../../app/loft/frame/Unread.vue'
import BulkLog from '../../app/loft/people/BulkLog.vue'
import { mountScreen, refusal } from './loft-screen'

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
