import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import Prices from '../../app/loft/shop/prices/Prices.vue'
import type { StaffRule } from '../../core/staff/staff-rule'
import { holdTimers, mountScreen, startData } from './loft-screen'
import type { Mounting } from './loft-screen'

const costs = { 'niddy-noddy': 1650, 'mitts-kit': 2100 }
async function prices(mounting: Mounting = {}) {
  const screen = await mountScreen(Prices, { ...mounting, answers: { 'GET costs': costs, ...mounting.answers } })
  await flushPromises()
  const cell = (product: string, tier: string) => {
    const t = screen.loft.tiers.findIndex(one => one.id === tier)
    return document.getElementById(`price-${product}-${t}`)!.textContent!.replaceAll(/\s+/g, ' ').trim()
  }
  const choose = async (product: string, tier: string) => {
    document.getElementById(`price-${product}-${screen.loft.tiers.findIndex(one => one.id === tier)}`)!.click()
    await flushPromises()
    await flushPromises()
  }
  const settle = async () => {
    for (let i = 0; i < 4; i++) await flushPromises()
  }
  const sayPrice = async (words: string) => {
    await screen.type('Say a price', words)
    await settle()
  }
  const aside = () => document.querySelector('aside')!.textContent!.replaceAll(/\s+/g, ' ')
  return { ...screen, cell, choose, sayPrice, aside, settle }
}

describe('the prices board', () => {
  it('tells what each tier pays and what made it, and what it does not see or is not told', async () => {
    const { cell } = await prices()
    expect(cell('fell-dk', 'guest')).toBe('6.90')
    expect(cell('fell-dk', 'stockist')).toBe('4.66 −32.5 %')
    expect(cell('harbour-aran', 'guest')).toBe('9.60 was 12.00')
    expect(cell('harbour-aran', 'guild')).toBe('8.83 −8 % of sale')
    expect(cell('reserve-7', 'guest')).toBe('unseen')
    expect(cell('reserve-7', 'friend')).toBe('glimpse')
    expect(cell('cone-dk', 'guest')).toBe('not told')
    expect(cell('cone-dk', 'stockist')).toBe('104.00')
    expect(cell('woad-vat', 'guest')).toBe('24.00 not sold')
    expect(cell('mitts-kit', 'classroom')).toBe('20.00 under cost 21.00')
  })

  it('shows colours that cost the same as their product in no row of their own', async () => {
    const { text } = await prices()
    expect(text()).toContain('Fell DK, 50 g · 5 alike')
    expect(document.getElementById('price-fell-dk-madder-0')).toBeNull()
    expect(document.getElementById('price-fell-dk-overdyed-black-0')).not.toBeNull()
  })

  it('says where a price comes from, step by step, and what the shop has left', async () => {
    const { choose, aside } = await prices()
    await choose('niddy-noddy', 'stockist')
    expect(aside()).toContain('Price trail · Stockist')
    expect(aside()).toContain('Stockist terms on tools19.2040 % off')
    expect(aside()).toContain('Guild standing29.44not for this visitor, 8 % off')
    expect(aside()).toContain('Six of yarn bring tools down28.80not enough yet, from 6, 10 % off')
    expect(aside()).toContain('Stockist pays, each19.20')
    expect(aside()).toContain('It costs the shop 16.50: leaves 2.70, 14.1 %.')
    await choose('reserve-7', 'maker')
    expect(aside()).toContain('Maker only glimpses it, and is told no price.')
  })

  it('tells which edition was live at the moment that is asked for, and shows its prices', async () => {
    const before = startData().versions.map(one =>
      one.key === 'fell-dk' ? { ...one, body: { ...(one.body as object), price: 650 } } : one,
    )
    const { loft, cell, text, settle } = await prices({
      data: startData({ edition: 2 }),
      answers: {
        'GET editions': [
          { number: 2, publishedAt: '2026-11-24T08:00:00Z', publishedBy: 'Ines Varga', note: '' },
          { number: 1, publishedAt: '2026-11-17T08:00:00Z', publishedBy: 'Ines Varga', note: '' },
        ],
        'GET editions/1': { number: 1, versions: before },
      },
    })
    loft.context.at = '2026-11-20T10:00:00.000Z'
    await settle()
    expect(text()).toContain('edition 1 was live then: look at it')
    await loft.visit(1)
    await settle()
    await settle()
    expect(cell('fell-dk', 'guest')).toBe('6.50')
    expect(text()).not.toContain('was live then')
    loft.context.at = '2026-11-01T10:00:00.000Z'
    await settle()
    expect(text()).toContain('nothing was live then')
  })

  it('shows the edition that was asked for last, however long an earlier answer takes', async () => {
    const { loft, settle } = await prices({
      answers: { 'GET editions/1': { number: 1, versions: startData().versions } },
    })
    // From one screen that shows an edition to another, by way of one that does not.
    await loft.visit(1)
    await Promise.all([loft.load(), loft.visit(1)])
    await settle()
    expect([loft.visiting, loft.goingTo()]).toEqual([1, 1])
    // Whoever leaves before it is there is not brought back to it.
    await loft.load()
    await Promise.all([loft.visit(1), loft.load()])
    await settle()
    expect([loft.visiting, loft.goingTo()]).toEqual([null, null])
  })

  it('asks what so many cost', async () => {
    const { type, cell, settle } = await prices()
    const timers = holdTimers()
    await type('Quantity of each product', '50')
    await timers.pass(260)
    await settle()
    expect(cell('fell-dk', 'stockist')).toBe('3.80 −45 %')
  })

  it('takes a price that is typed anywhere on the board', async () => {
    const { find, key, settle } = await prices()
    await key(find('What each tier pays'), 's')
    await settle()
    const line = find('Say a price') as HTMLInputElement
    expect([line.value, document.activeElement === line]).toEqual(['s', true])
    await key(find('What each tier pays'), '#')
    await settle()
    expect(find('where tiers differ').getAttribute('aria-pressed')).toBe('true')
    await key(find('What each tier pays'), 'Enter')
    await settle()
    expect(find('Back to the price trail')).toBeTruthy()
  })

  it('draws steps as a ladder while they are said, and measures them where the first begins', async () => {
    const { sayPrice, text, press, find, type, loft, calls, settle } = await prices()
    await sayPrice('stockists 45 % off yarn from 10')
    expect(text()).toContain('Measured at 10 pieces.')
    expect(text()).toMatch(/\d+ prices of \d+ products move/)
    const typed = find('Say a price') as HTMLInputElement
    typed.dispatchEvent(new Event('blur'))
    await press('+ a step')
    await settle()
    // Pressing a button beside it writes nothing into the field.
    expect(typed.value).toBe('stockists 45 % off yarn from 10')
    await type('What step 2 takes off', '50 %')
    await type('Step 2 begins at', '5')
    await settle()
    expect(text()).toContain('Stockists: 50 % off from 5 to 9, 45 % off from 10 on Yarn')
    await press('Keep it in the draft')
    await loft.settled()
    expect(calls.find(call => call.method === 'PUT')).toMatchObject({
      body: {
        body: {
          by: 'product',
          bands: [
            { from: 5, to: 9, off: { percent: '50' } },
            { from: 10, off: { percent: '45' } },
          ],
        },
      },
    })
  })

  it('takes a price said in one line, says it back, measures it and keeps it in the draft', async () => {
    const { sayPrice, text, press, loft, calls, cell, settle, aside } = await prices()
    await sayPrice('friend 12 % off yarn not on sale')
    expect(text()).toContain('Friend or above: 12 % off on Yarn, not on goods on sale.')
    expect(text()).toContain('2 of its 22 goods are on sale')
    expect(text()).toMatch(/\d+ prices of 20 products move/)
    await press('Keep it in the draft')
    await settle()
    await loft.settled()
    const [put] = calls.filter(call => call.method === 'PUT')
    expect(put).toMatchObject({
      path: 'entries/offer/friend-or-above-12-off-on-yarn',
      body: {
        expects: null,
        body: { for: { level: { atLeast: 'friend' } }, base: 'unlessOnSale', bands: [{ off: { percent: '12' } }] },
      },
    })
    await settle()
    expect(cell('fell-dk', 'friend')).toBe('6.07 −12 %')
    expect(cell('harbour-aran', 'friend')).toBe('9.60 was 12.00')
    expect(aside()).toContain('It makes')
  })

  it('says what it does not understand, at its place', async () => {
    const { sayPrice, text } = await prices()
    await sayPrice('stockists 15 % off cheese')
    ;(document.activeElement as HTMLElement | null)?.blur()
    await flushPromises()
    expect(text()).toContain('At “cheese”: expected who it is for')
  })

  it('draws the ladder of an offer: each step ends where the next begins, and none begins twice or below one', async () => {
    const { choose, press, type, text, loft, settle } = await prices()
    await choose('fell-dk', 'stockist')
    await press('Stockist terms on yarn')
    await settle()
    await type('Step 2 begins at', '20')
    await settle()
    const offer = () => loft.draft.offers!.find(one => one.id === 'stockist-yarn')!
    expect(offer().bands.map(({ from, to }) => [from, to])).toEqual([
      [1, 19],
      [20, 49],
      [50, undefined],
    ])
    await type('Step 3 begins at', '20')
    expect(text()).toContain('Another step begins at 20 already.')
    await type('Step 3 begins at', '0')
    expect(text()).toContain('“0” is no number of pieces from 1 on.')
    await type('What step 1 takes off', '= 4.50')
    await settle()
    expect(offer().bands[0]!.off).toEqual({ price: 450 })
    await type('What step 1 takes off', 'half')
    expect(text()).toContain('“half” is no reduction')
  })

  it('changes nothing for who may only look, and nothing of what is live', async () => {
    const rules: StaffRule[] = (['products', 'prices', 'offers', 'gates'] as const).map(kind => ({
      role: 'shop-hand',
      kind,
      actions: ['look'],
      whose: 'anyone',
    }))
    const me = { id: 'p-oona', name: 'Oona', masterKey: false, rules, roles: ['shop-hand'] }
    const { find, aside, choose } = await prices({ data: startData({ me }) })
    expect(() => find('Say a price')).toThrow()
    await choose('niddy-noddy', 'stockist')
    expect(aside()).not.toContain('It costs the shop')
  })
})
