import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import Who from '../../app/loft/who/loom/Who.vue'
import TierHead from '../../app/loft/reach/TierHead.vue'
import { everybody, listed, mountScreen, refusal, startData } from './loft-screen'
import type { Answers, Call } from './loft-screen'

const crossings = {
  people: 12,
  unranked: 6,
  levels: { friend: 3, maker: 1, guild: 2 },
  roles: { stockist: 1, 'test-knitter': 3 },
  firms: { 'role stockist': 1 },
  both: [
    { level: null, role: 'stockist', count: 1 },
    { level: 'guild', role: 'test-knitter', count: 2 },
    { level: 'friend', role: 'test-knitter', count: 1 },
  ],
}
const who = async (at = '', answers: Answers = {}, data = startData()) => {
  const screen = await mountScreen(Who, {
    answers: {
      'GET people': everybody(listed('p-guda', 'Guda Moor')),
      'GET people/crossings': crossings,
      'GET people/counts': [4],
      'GET forms': [],
      'GET firms': [],
      ...answers,
    },
    data,
    at: { path: '/loft/who', query: at ? { at } : {} },
  })
  await flushPromises()
  return screen
}
const rungs = () =>
  [...document.querySelectorAll('.rung')].map(one =>
    [...one.querySelectorAll('b, span')].map(part => part.textContent!.replaceAll(/\s+/g, ' ').trim()),
  )
const stepsSent = (calls: Call[]) =>
  calls
    .filter(call => call.path === 'draft/steps')
    .flatMap(call => (call.body as { steps: { do: string; entry?: string; key: string; body: unknown }[] }).steps)

describe('the loom', () => {
  it('has levels across by rank, guest lowest, with what each adds, and who holds both where roles cross them', async () => {
    const { text, find } = await who()
    const told = rungs()
    expect(told.map(parts => parts[0]!.match(/^(Guild|Maker|Friend|Signed in|Guest)/)?.[0])).toEqual([
      'Guild',
      'Maker',
      'Friend',
      'Signed in',
      'Guest',
    ])
    const lines = told.map(parts => parts.join(' '))
    expect(lines[0]).toMatch(/€84\.00 a year, lasts a year.* 2 hold it.*opens 1?\d more than Maker: The gansey course/)
    expect(lines[3]).toMatch(/no level .* 6 .*more than a guest.*, and \d+ fewer/)
    expect(lines[4]).toMatch(/opens \d+ of \d+/)
    expect(find('2 hold Guild and Test knitter')).toBeTruthy()
    expect(text()).toContain('1 · 1 firm')
    expect(text()).toMatch(/Gansey circle.*4 people now · 1 gate/)
  })

  it('ties a knot where a level brings a role, and lists who holds both', async () => {
    const { type, loft } = await who('level:guild')
    await type('A role that Guild brings', 'test-knitter')
    expect(loft.draft.levels!.find(one => one.id === 'guild')!.roles).toEqual(['test-knitter'])
    await flushPromises()
    expect(document.querySelector('.crossing b.knot')!.textContent).toBe('2')
    const both = await who('level:guild*role:test-knitter')
    expect(both.text()).toContain('Guda Moor')
    expect(both.calls.some(call => call.path.includes(encodeURIComponent('"level":{"in":["guild"]}')))).toBe(true)
    const none = await who('signedIn*role:stockist')
    expect(none.text()).toContain('Stockist, no level')
  })

  it('moves a rung with the keys, in one step, and tells what that moves and what asks by rank', async () => {
    const { key, calls, loft, text } = await who('level:guild')
    const grid = document.querySelector<HTMLElement>('[role="grid"]')!
    await key(grid, 'ArrowDown', { altKey: true })
    await flushPromises()
    await loft.settled()
    await flushPromises()
    expect(stepsSent(calls).map(one => [one.entry, one.key, (one.body as { rank: number }).rank])).toEqual([
      ['level', 'guild', 20],
      ['level', 'maker', 30],
    ])
    expect(text()).toMatch(
      /Maker above Guild: \d+ cells move \(\d+ gain, \d+ lose\) for Maker.*rules ask for them by rank/,
    )
  })

  it('makes levels above the last and roles, and none whose name says nothing or is taken', async () => {
    const { press, type, loft, text, find } = await who()
    const add = async (name: string) => {
      await type('Name of a new level', name)
      document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
      await flushPromises()
    }
    await press('+ level')
    await add('Guild')
    expect(text()).toContain('There is “Guild” already.')
    await add('!')
    expect(text()).toContain('A name needs a letter or a digit.')
    await add('Patron')
    expect(loft.draft.levels!.at(-1)).toEqual({ id: 'patron', name: 'Patron', rank: 40 })
    // The highest is told of where nothing else is chosen.
    expect((find('Name of Patron') as HTMLInputElement).value).toBe('Patron')
  })

  it('takes a price as it is typed on this site, and none that is no amount', async () => {
    const { type, text, loft } = await who('level:maker')
    await type('Price of Maker', 'six')
    expect(text()).toContain('“six” is no amount.')
    await type('Price of Maker', '7.50')
    expect(loft.draft.levels!.find(level => level.id === 'maker')!.price).toEqual({ amount: 750, every: 'month' })
    await type('Price of Maker', '')
    expect(loft.draft.levels!.find(level => level.id === 'maker')).not.toHaveProperty('price')
  })

  it('is only read by who may only look', async () => {
    const me = {
      id: 'p',
      name: 'P',
      masterKey: false,
      roles: ['front-desk'],
      rules: [{ role: 'front-desk', kind: 'roles' as const, actions: ['look' as const], whose: 'anyone' as const }],
    }
    const { find, text } = await who('role:stockist', {}, startData({ me }))
    expect((find('Name of Stockist') as HTMLInputElement).disabled).toBe(true)
    for (const name of ['Name of the copy of Stockist', 'Remove Stockist', '+ level', '+ role'])
      expect(() => find(name), name).toThrow()
    expect(text()).toContain('Who holds it shows to who may look at people.')
  })
})

describe('a level or role', () => {
  it('is copied with all that names it, less what is unticked, in one step', async () => {
    const { type, press, calls, loft, text } = await who('role:stockist')
    expect(text()).toMatch(/A new role that reaches and pays as Stockist does: \d+ gates.*all ticked/)
    await press('see each')
    await press('Add the copy to gate Trade desk')
    await type('Name of the copy of Stockist', 'Wholesale')
    await press('Copy')
    await flushPromises()
    await loft.settled()
    await flushPromises()
    const steps = stepsSent(calls)
    expect(steps[0]).toMatchObject({ do: 'put', entry: 'role', key: 'wholesale', body: { name: 'Wholesale' } })
    expect(steps.some(one => one.entry === 'gate' && one.key === 'trade')).toBe(false)
    const others = steps.filter(one => one.entry !== 'role' && one.entry !== 'tier')
    expect(others.length).toBeGreaterThan(2)
    for (const one of others) expect(JSON.stringify(one)).toMatch(/"stockist","wholesale"/)
    expect(steps.at(-1)).toMatchObject({ entry: 'tier', key: 'wholesale', body: { visitor: { roles: ['wholesale'] } } })
    // It is told of where its original was; what it is called is the server's to say.
    expect(text()).toContain('There is no such role.')
  })

  it('whose gates another changed meanwhile is not copied, and keeps what was typed and ticked', async () => {
    const { type, press, text, find } = await who('role:stockist', {
      'POST draft/steps': refusal('changed-meanwhile', 'Mako changed the gate “Trade desk” while you were editing.'),
    })
    await press('see each')
    await press('Add the copy to gate Trade desk')
    await type('Name of the copy of Stockist', 'Wholesale')
    await press('Copy')
    await flushPromises()
    expect(text()).toContain('Mako changed the gate “Trade desk” while you were editing.')
    expect((find('Name of the copy of Stockist') as HTMLInputElement).value).toBe('Wholesale')
    expect((find('Add the copy to gate Trade desk') as HTMLInputElement).checked).toBe(false)
  })

  it('is taken out with what becomes of all that names it', async () => {
    const { press, calls, loft, text } = await who('level:guild')
    await press('Remove Guild')
    expect(text()).toMatch(/Guild goes with the next edition.*gate Printing.*will say/s)
    await press('Take Guild out')
    await flushPromises()
    await loft.settled()
    const steps = stepsSent(calls)
    expect(steps.at(-1)).toMatchObject({ do: 'put', entry: 'level', key: 'guild', body: null })
    expect(JSON.stringify(steps.slice(0, -1))).not.toMatch(/"atLeast":"guild"|"in":\["guild"\]/)
    expect(steps.find(one => one.entry === 'tier')).toMatchObject({ key: 'guild', body: null })
  })
})

describe('the head of a column', () => {
  it('names, colours, moves and takes it off where it stands', async () => {
    const props = { tier: { id: 'islander', name: 'Islander' }, note: '', thread: '#8a6a1e', chosen: false }
    const { press, type, loft, calls, find } = await mountScreen(TierHead, { props })
    await press('Islander: the column')
    await type('Level of the tier Islander', 'guild')
    await press('Thread #2f7f8f')
    const islander = () => loft.draft.tiers!.find(tier => tier.id === 'islander')!
    expect(islander()).toMatchObject({ thread: '#2f7f8f', visitor: { levels: [{ level: 'guild' }] } })
    expect(loft.threads.get('islander')).toBe('#2f7f8f')
    await type('Name of the column', 'The island')
    expect(islander().name).toBe('The island')
    await press('← earlier')
    await flushPromises()
    expect(stepsSent(calls).at(-1)).toMatchObject({ do: 'order', entry: 'tier', key: 'islander' })
    find('Take the column off').click()
    await flushPromises()
    expect(loft.draft.tiers!.some(tier => tier.id === 'islander')).toBe(false)
  })
})
