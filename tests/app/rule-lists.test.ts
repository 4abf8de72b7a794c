import { describe, expect, it, vi } from 'vitest'
import EntryList from '../../app/loft/who/EntryList.vue'
import Landings from '../../app/loft/door/Landings.vue'
import { refusal, startData, mountScreen } from './loft-screen'
import type { Answers } from './loft-screen'

const list = (sort: string, answers: Answers = {}, data = startData()) =>
  mountScreen(EntryList, { props: { sort }, answers, data })
const names = () =>
  [...document.querySelectorAll<HTMLInputElement>('[aria-label^="Name of "]')].map(field => field.value).slice(0, -1)

describe('levels', () => {
  it('stand by rank, with what depends on each', async () => {
    const { text } = await list('levels')
    expect(names()).toEqual(['Friend', 'Maker', 'Guild'])
    expect(text()).toContain('used by audience Gansey circle, gate Printing')
    expect(text()).toContain('landing to /techniques')
  })

  it('are made above the last, and never with a name that says nothing or is taken', async () => {
    const { type, text, loft } = await list('levels')
    const add = async (name: string) => {
      await type('Name of a new one of the levels', name)
      document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
    }
    await add('Guild')
    await type('Name of a new one of the levels', '!')
    expect(text()).toContain('There is “guild” already.')
    await add('!')
    expect(loft.draft.levels).toHaveLength(3)
    await add('Patron')
    expect(loft.draft.levels!.at(-1)).toEqual({ id: 'patron', name: 'Patron', rank: 40 })
  })

  it('swap ranks with their neighbour in one step, so that no two are ever of one rank', async () => {
    const { press, loft, calls } = await list('levels')
    await press('Rank Guild lower')
    await loft.settled()
    const sent = calls.filter(call => call.method !== 'GET')
    expect(sent.map(call => call.path)).toEqual(['draft/steps'])
    const { steps } = sent[0]!.body as { steps: { do: string; key: string; body: { rank: number } }[] }
    expect(steps.map(one => [one.do, one.key, one.body.rank])).toEqual([
      ['put', 'guild', 20],
      ['put', 'maker', 30],
    ])
  })

  it('take a price as it is typed on this site, and none that is no amount', async () => {
    const { type, text, loft } = await list('levels')
    await type('Price of Maker', 'six')
    expect(text()).toContain('“six” is no amount.')
    await type('Price of Maker', '7.50')
    expect(loft.draft.levels!.find(level => level.id === 'maker')!.price).toEqual({ amount: 750, every: 'month' })
    await type('Price of Maker', '')
    expect(loft.draft.levels!.find(level => level.id === 'maker')).not.toHaveProperty('price')
  })

  it('that may not go come back, with the reason beside them', async () => {
    const { press, text, loft } = await list('levels', {
      'DELETE entries/level/guild': refusal('in-use', 'Still used by gate “Printing”.'),
    })
    await press('Remove Guild')
    await loft.settled()
    expect([names().includes('Guild'), text().includes('Still used by gate “Printing”.')]).toEqual([true, true])
  })
})

describe('roles', () => {
  it('are copied with what they are; staff roles stand elsewhere', async () => {
    const { press, find, loft } = await list('roles')
    await press('Copy Test knitter')
    expect(loft.draft.roles!.at(-1)).toMatchObject({
      id: 'test-knitter-2',
      name: 'Test knitter 2',
      permissions: ['see-drafts'],
    })
    for (const name of ['Name of Keeper', 'Copy Page hand']) expect(() => find(name), name).toThrow()
  })

  it('are only read by who may only look', async () => {
    const { find } = await list(
      'roles',
      {},
      startData({
        me: {
          id: 'p',
          name: 'P',
          masterKey: false,
          roles: ['front-desk'],
          rules: [{ role: 'front-desk', kind: 'roles', actions: ['look'], whose: 'anyone' }],
        },
      }),
    )
    expect((find('Name of Stockist') as HTMLInputElement).disabled).toBe(true)
    for (const name of ['Copy Stockist', 'Remove Stockist', 'Name of a new one'])
      expect(() => find(name), name).toThrow()
  })
})

describe('tiers', () => {
  it('are given a level and roles, and the board follows', async () => {
    const { type, find, loft } = await list('tiers')
    await type('Level of the tier Islander', 'guild')
    await vi.waitFor(() =>
      expect(loft.draft.tiers!.find(tier => tier.id === 'islander')!.visitor.levels).toEqual([
        { level: 'guild', since: '2026-01-01T00:00:00Z' },
      ]),
    )
    const guest = find('Name of Guest').closest('li')!
    expect(guest.textContent).toContain('nobody signed in')
  })
})

describe('landings', () => {
  const landings = (answers: Answers = {}) => mountScreen(Landings, { answers })

  it('say where a tier would land, step by step, and why', async () => {
    const { type, text } = await landings()
    await type('Somebody who is', 'stockist')
    expect(text()).toContain('Stockist lands on /trade.')
    expect(text()).toContain('/loft: not for them')
    expect(text()).toContain('/trade: leads there')
    expect(text()).toContain(
      '/techniques: would fit, but an earlier one leads'.replace('would fit, but an earlier one leads', 'not for them'),
    )
    expect(text()).toContain('/account: would fit, but an earlier one leads')
  })

  it('lead back to the page somebody was refused, if it opens now', async () => {
    const { type, text } = await landings()
    await type('Somebody who is', 'guild')
    await type('refused on the way in at', 'gussets')
    expect(text()).toContain('Guild lands on /techniques/gansey/gussets, the page they were refused before.')
  })

  it('show what leads nowhere, before anybody is sent there', async () => {
    const { type, text, loft } = await landings()
    await type('Where landing 3 leads', 'techniques')
    expect(text()).toContain('“techniques” is no path of the site')
    await type('Where landing 3 leads', '/gone')
    expect(loft.draft.landings!.find(one => one.id === 'guild')!.to).toBe('/gone')
    expect(text()).toContain('Guild would land on /gone, where there is no page.')
    await type('Where landing 3 leads', '/trade')
    expect(text()).toContain('Guild would land on /trade, and cannot open it.')
  })

  it('are put in another order by the server, once what is typed is there', async () => {
    const { press, type, calls } = await landings()
    await type('Where landing 3 leads', '/join')
    await press('Move landing 3 up')
    await press('Move landing 1 down')
    expect(
      calls.filter(call => call.method !== 'GET').map(call => [call.path, (call.body as { before?: unknown }).before]),
    ).toEqual([
      ['entries/landing/guild', undefined],
      ['landings/order', 'trade'],
      ['landings/order', 'guild'],
    ])
  })

  it('are switched off and on, noted, and told what is filled in', async () => {
    const { press, type, text, loft } = await landings()
    const guild = () => loft.draft.landings!.find(one => one.id === 'guild')!
    await press('Landing 3 in force')
    expect([guild().active, text().includes('switched off')]).toEqual([false, true])
    await press('Landing 3 in force')
    expect('active' in guild()).toBe(false)
    await press('Note on landing 3')
    await type('Note of landing 3', 'Until the hall is ready.')
    expect([guild().note, text().includes('Until the hall is ready.')]).toEqual(['Until the hall is ready.', true])
    await type('Where landing 3 leads', '/home/{level}/{first}')
    expect(text()).toContain('{first} stands there as it is: only {name}, {id} and {level} are filled in.')
    expect(text()).not.toContain('{level} stands there')
  })

  it('of each moment are made for that moment', async () => {
    const { press, loft } = await landings()
    await press('Signing out')
    await press('+ Landing')
    expect(loft.draft.landings!.at(-1)).toEqual({ id: 'landing-7', on: 'signOut', for: { everyone: true }, to: '/' })
  })
})
