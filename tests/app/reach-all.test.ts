import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import Reach from '../../app/loft/reach/Reach.vue'
import type { Gate } from '../../core/rulebook/gate'
import { holdTimers, mountScreen, refusal } from './loft-screen'

const at = (query: Record<string, string>) => ({ at: { path: '/loft', query } })
const why = () => document.querySelector('[aria-label="Why"]')!.textContent!.replaceAll(/\s+/g, ' ')
const openFor = (path: string, tier: string) => {
  const row = [...document.querySelectorAll('[role=row]')].find(one => one.textContent!.includes(path))!
  return row.querySelector(`[title^="${tier}:"]`)!.getAttribute('title')
}

describe('what is said of the whole site and of each kind', () => {
  it('shuts the whole site in one sentence, with one tick for each exception', async () => {
    const { loft, press, type, key, find } = await mountScreen(Reach, at({ row: 'everything' }))
    await press('For some only…')
    await press('everyone. Enter changes it.')
    await type('Say who', 'maker')
    await key(find('Say who'), 'Enter')
    const [gate] = loft.draft.gates!.filter(one => 'everything' in one.on)
    expect(gate).toMatchObject({ name: 'The whole site', on: { everything: true } })
    expect(openFor('/visit', 'Guest')).toContain('unseen')
    await type('Find an exception', 'visit the mill')
    await press('Visit the mill/visit')
    const made = loft.draft.gates!.filter(one => one.name === 'Open: Visit the mill')
    expect(made.map(one => one.on)).toEqual(expect.arrayContaining([{ page: 'visit' }, { menuItem: 'm-visit' }]))
    expect(openFor('/visit', 'Guest')).toContain('open')
    expect(openFor('/visit/ferry', 'Guest')).toContain('unseen')
    await press('and below')
    expect(openFor('/visit/ferry', 'Guest')).toContain('open')
    await press('Visit the mill/visit')
    expect(loft.draft.gates!.filter(one => one.name === 'Open: Visit the mill')).toEqual([])
  }, 20_000)

  it('says what the refused get, of anything and of a kind apart, beside the other settings', async () => {
    const { loft, type, find, text, answers } = await mountScreen(Reach, at({ row: 'post' }))
    const before = loft.draft.settings!
    await type('Otherwise', 'teaser')
    expect(loft.draft.settings).toEqual({ ...before, otherwise: { ...before.otherwise, post: { teaser: true } } })
    answers['PUT entries/settings/site'] = refusal('bad-input', 'A notice says something.')
    await type('Otherwise', 'none')
    await loft.settled()
    expect(loft.draft.settings!.otherwise ?? {}).not.toHaveProperty('post')
    expect([text().includes('A notice says something.'), find('Otherwise') !== null]).toEqual([true, true])
  })

  it('says one sentence of several rows: where they lie together, or a gate on each', async () => {
    const { loft, press, type, key, find } = await mountScreen(Reach)
    const gates = () => loft.draft.gates!
    const before = gates().length
    await press('Tick Visit the mill')
    await press('Tick Welcome to the mill')
    expect(why()).toContain('2 things')
    await press('everyone. Enter changes it.')
    await type('Say who', 'stockist')
    await key(find('Say who'), 'Enter')
    await press('Let it stand')
    expect(
      gates()
        .slice(before)
        .map(one => [one.on, one.open]),
    ).toEqual([
      [{ page: 'visit' }, { role: { anyOf: ['stockist'] } }],
      [{ page: 'welcome' }, { role: { anyOf: ['stockist'] } }],
    ])
    await press('Tick all Posts')
    await press('Let it stand')
    expect(gates().filter(one => 'kind' in one.on && one.on.kind === 'post')).toHaveLength(1)
  })

  it('tells of a gate that opens nothing more, and lets it stand instead', async () => {
    const timers = holdTimers()
    const { loft, press } = await mountScreen(Reach, at({ thing: 'page:trade-prices', tier: 'guest' }))
    await press('+ Gate here')
    await timers.pass(500) // It is kept meanwhile.
    await timers.pass(500)
    await flushPromises()
    expect(why()).toContain('It opens nothing more, and refuses nobody more, than what stands further out.')
    await press('Let it stand instead')
    const gate = () => loft.draft.gates!.find((one: Gate) => one.id === 'trade-prices')!
    expect(gate()).toMatchObject({ inherit: false })
    // What was told of it before is not said of it any more, not even for a moment.
    expect(why()).not.toContain('It opens nothing more')
    loft.change('gate', 'trade-prices', { id: 'trade-prices', on: { page: 'trade-prices' }, open: { everyone: true } })
    await timers.pass(500)
    await timers.pass(500)
    await flushPromises()
    expect(why()).toContain('It opens nothing more')
    loft.change('gate', 'trade-prices', { ...gate(), open: { nobody: true } })
    await timers.pass(1)
    expect(why()).not.toContain('It opens nothing more')
  })
})
