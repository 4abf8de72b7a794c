import { describe, expect, it } from 'vitest'
import WhereTheyLand from '../../app/loft/door/seen/WhereTheyLand.vue'
import LandingLines from '../../app/loft/door/ways/LandingLines.vue'
import { mountScreen } from './loft-screen'
import type { Answers } from './loft-screen'

describe('landings', () => {
  const landings = (answers: Answers = {}, on = 'signIn') =>
    mountScreen(LandingLines, { answers, props: { on, verb: 'lands on' } })
  const whereLands = (tier: string) => mountScreen(WhereTheyLand, { props: { on: 'signIn', tier, width: null } })

  it('say where a tier would land, step by step, and why', async () => {
    const { text } = await whereLands('stockist')
    expect(text()).toContain('Stockist lands on /trade.')
    expect(text()).toContain('/loft: not for them')
    expect(text()).toContain('/trade: leads there')
    expect(text()).toContain(
      '/techniques: would fit, but an earlier one leads'.replace('would fit, but an earlier one leads', 'not for them'),
    )
    expect(text()).toContain('/account: would fit, but an earlier one leads')
  })

  it('lead back to the page somebody was refused, if it opens now', async () => {
    const { type, text } = await whereLands('guild')
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
    await press('More of landing 3')
    await press('Move landing 3 up')
    await press('More of landing 1')
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
    await press('More of landing 3')
    await press('Landing 3 in force')
    expect([guild().active, text().includes('Switched off')]).toEqual([false, true])
    await press('Landing 3 in force')
    expect('active' in guild()).toBe(false)
    await type('Note of landing 3', 'Until the hall is ready.')
    await press('More of landing 3')
    expect([guild().note, text().includes('Until the hall is ready.')]).toEqual(['Until the hall is ready.', true])
    await type('Where landing 3 leads', '/home/{level}/{first}')
    expect(text()).toContain('{first} stands there as it is: only {name}, {id} and {level} are filled in.')
    expect(text()).not.toContain('{level} stands there')
  })

  it('of each moment are made for that moment', async () => {
    const { press, loft } = await landings({}, 'signOut')
    await press('+ say for whom, and where')
    expect(loft.draft.landings!.at(-1)).toEqual({ id: 'landing-7', on: 'signOut', for: { everyone: true }, to: '/' })
  })
})
