import { flushPromises } from '@vue/test-utils'
import { expect, it } from 'vitest'
import RollBack from '../../app/loft/editions/RollBack.vue'
import VersionHistory from '../../app/loft/kit/publish/VersionHistory.vue'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { mountScreen, startData } from './loft-screen'

const trade = wexlowRulebook.gates!.find(gate => gate.id === 'trade')!
const page = { id: 'wool-fair', title: 'Wool fair', path: '/wool-fair' }

it('an edition comes back whole, or only what is ticked of it', async () => {
  const now = startData()
  // Then the trade desk was open, the fair was not there, and one level was called something else.
  const then = now.versions.flatMap(one => {
    if (one.key === 'trade' && one.kind === 'gate')
      return { ...one, id: 90, body: { ...trade, open: { everyone: true } } }
    return one.kind === 'level' && one.key === 'guild' ? { ...one, id: 91, body: { id: 'guild', rank: 30 } } : one
  })
  now.versions.push({ kind: 'page', key: 'wool-fair', position: 99, body: page, id: 92, revision: 1 })
  const { wrapper, press, text, calls } = await mountScreen(RollBack, {
    props: { modelValue: null },
    data: now,
    answers: {
      'GET editions/1': { number: 1, versions: then },
      'POST editions/1/roll-back': { changes: 2, edition: null },
    },
  })
  await wrapper.setProps({ modelValue: 1 })
  await flushPromises()
  expect(text()).toContain('3 of 3 ticked')
  expect(text()).toContain('Wool fair page · goes')
  expect(text()).toContain('Trade desk gate · as it was')
  await press('Back: Wool fair')
  expect(text()).toContain('2 of 3 ticked')
  await press('Into the draft')
  expect(calls.at(-1)).toMatchObject({
    path: 'editions/1/roll-back',
    body: { atOnce: false, expects: 1, chosen: ['level guild', 'gate trade'] },
  })
  expect(wrapper.emitted('done')).toEqual([['2 changes back are in the draft.']])
})

it("a rule's history is told in its sentences, and any of it comes back", async () => {
  const row = (version: number, open: object, from: number, to: number | null, note = '') => ({
    version,
    from,
    to,
    draft: to === null,
    publishedAt: to === null ? null : '2026-11-24T10:00:00Z',
    changedBy: 'Ines Varga',
    changedAt: '2026-11-24T09:05:00Z',
    note,
    says: { ...trade, open },
  })
  const { press, text, calls } = await mountScreen(VersionHistory, {
    props: { kind: 'gate', id: 'trade', mayChange: true },
    answers: {
      'GET entries/gate/trade/history': [
        row(7, { everyone: true }, 2, null),
        row(3, trade.open!, 1, 2, 'The first edition.'),
      ],
    },
  })
  expect(text()).toContain('in the draft')
  expect(text()).toContain('Open to Stockists.')
  expect(text()).not.toContain('anyOf')
  await press('Bring back what it was in edition 1')
  expect(calls.find(call => call.method === 'POST')).toMatchObject({
    path: 'entries/gate/trade/bring-back',
    body: { version: 3 },
  })
})
