import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import Reach from '../../app/loft/reach/Reach.vue'
import type { Gate } from '../../core/rulebook/gate'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { startData, mountScreen } from './loft-screen'
import type { Mounting } from './loft-screen'
import { asIfTexts, readAsIfs } from '../../app/loft/kit/words/as-if-words'
import { led, route } from './nuxt-names'

async function reach(mounting: Mounting = {}) {
  const screen = await mountScreen(Reach, mounting)
  const board = () => document.querySelector<HTMLElement>('[role=grid]')!
  const keys = async (...pressed: string[]) => {
    for (const one of pressed) await screen.key(board(), one)
  }
  const why = () => document.querySelector('[aria-label="Why"]')!.textContent!.replaceAll(/\s+/g, ' ')
  return { ...screen, board, keys, why }
}
const at = (thing: string, tier: string) => ({ at: { path: '/loft', query: { thing, tier } } })

describe('the reach board', () => {
  it('says for the chosen cell what the tier reaches, which gate decides and what comes instead', async () => {
    const { why } = await reach(at('page:trade', 'maker'))
    expect(why()).toContain('Maker does not see it: it is in no list and its address leads nowhere.')
    expect(why()).toContain('Instead: absent')
    expect(why()).toContain('This page and below')
    expect(why()).toContain('Open to Stockists')
  })

  it('is walked by arrows, a column and a row at a time, and stops at its edges', async () => {
    const { keys, board } = await reach()
    const here = () => board().getAttribute('aria-activedescendant')
    await keys('Home', 'ArrowLeft')
    const first = here()
    await keys('ArrowRight', 'ArrowDown')
    expect(here()).not.toBe(first)
    await keys('ArrowUp', 'ArrowLeft', 'ArrowLeft', 'ArrowUp')
    expect(here()).toBe(first)
  })

  it('edits the gate that decides in place: the board moves, the draft is told once', async () => {
    const { keys, find, press, type, key, loft, calls, why } = await reach(at('page:trade', 'classroom'))
    await keys('e')
    await press('+ or')
    await type('Or whom', 'classroom')
    await key(find('Or whom'), 'Enter')
    expect(why()).toContain('Classroom opens it')
    expect(loft.board!.impact).toEqual({ moved: 11, gain: 11, lose: 0, other: 0 })
    await loft.settled()
    expect(calls.filter(call => call.method === 'PUT')).toEqual([
      {
        method: 'PUT',
        path: 'entries/gate/trade',
        body: {
          expects: { id: 1, revision: 1 },
          body: {
            ...wexlowRulebook.gates!.find(gate => gate.id === 'trade'),
            open: { any: [{ role: { anyOf: ['stockist'] } }, { role: { anyOf: ['classroom'] } }] },
          },
        },
      },
    ])
  })

  it('makes a gate where none stands, with an id nobody has', async () => {
    const { press, loft } = await reach(at('page:welcome', 'guest'))
    await press('+ Gate here')
    expect(loft.draft.gates!.find(gate => gate.id === 'welcome')).toEqual({
      id: 'welcome',
      name: 'Welcome to the mill',
      on: { page: 'welcome' },
      open: { everyone: true },
    })
  })

  it('only reads for who may not change gates, and for what is live', async () => {
    const data = startData({
      me: {
        id: 'p-dace',
        name: 'Dace',
        masterKey: false,
        roles: ['front-desk'],
        rules: [{ role: 'front-desk', kind: 'gates', actions: ['look'], whose: 'anyone' }],
      },
    })
    const { keys, loft } = await reach({ data, ...at('page:trade', 'maker') })
    await keys('e')
    expect([...document.querySelectorAll('button')].filter(one => /Edit|\+ Gate|edit$/.test(one.textContent!))).toEqual(
      [],
    )
    loft.view = 'live'
    await flushPromises()
    expect(document.querySelector('[aria-label="Why"]')!.textContent).toContain('Open to')
  })

  it('compares two columns, and groups what is alike', async () => {
    const { keys, text, board, press } = await reach(at('page:trade', 'maker'))
    const rows = () => board().querySelectorAll('[role=row]').length
    await keys('c', 'ArrowRight', 'c')
    expect(text()).toContain('where Maker and Guild differ')
    const differing = rows()
    await press('where Maker and Guild differ')
    expect(rows()).toBeGreaterThan(differing)
    await keys('g')
    expect(text()).toContain('Welts that do not flare and 2 alike')
    const groups = rows()
    await press('▸Welts that do not flare and 2 alike')
    expect(rows()).toBeGreaterThan(groups)
  })

  it('shows only what the draft moves, and nothing where it moves nothing', async () => {
    const changed = structuredClone(wexlowRulebook)
    changed.gates = changed.gates!.map(gate =>
      gate.id === 'trade' ? ({ ...gate, open: { everyone: true } } as Gate) : gate,
    )
    const { press, board, text } = await reach({ data: startData({ draft: changed }) })
    await press('Only changes')
    const names = [...board().querySelectorAll('[role=rowheader]')].map(one => one.textContent!.trim())
    expect(names.join(' ')).toContain('Trade desk')
    expect(names.join(' ')).not.toContain('Welcome to the mill')
    expect(text()).toContain('1 change in the draft')
    await press('Live · edition 1')
    expect(text()).toContain('Technique library')
  })

  it('switches a gate off and on: the board follows, the row is marked, and what it said stays', async () => {
    const { press, why, find, loft, text, board } = await reach(at('page:trade', 'guest'))
    const row = () =>
      [...board().querySelectorAll('[role=rowheader]')].find(one => one.textContent!.includes('Trade desk'))!
    expect([find('Gate Trade desk in force').getAttribute('aria-checked'), row().textContent]).toEqual([
      'true',
      expect.not.stringContaining('gate off'),
    ])
    await press('Gate Trade desk in force')
    await flushPromises()
    expect(why()).toContain('Guest opens it')
    expect(why()).toContain('Switched off: it says nothing until it is on again.')
    expect(why()).toContain('Open to Stockists')
    expect(row().textContent).toContain('gate off: Trade desk')
    expect(loft.board!.impact.gain).toBeGreaterThan(8)
    const said = loft.draft.gates!.find(gate => gate.id === 'trade')!
    expect(said).toEqual({ ...wexlowRulebook.gates!.find(gate => gate.id === 'trade'), active: false })
    await press('Gate Trade desk in force')
    await flushPromises()
    expect(loft.draft.gates!.find(gate => gate.id === 'trade')).toEqual(
      wexlowRulebook.gates!.find(gate => gate.id === 'trade'),
    )
    expect([why().includes('Guest does not see it'), text().includes('gate off')]).toEqual([true, false])
  })

  it('shows why a gate stands there, as somebody noted it', async () => {
    const { press, type, why, loft } = await reach(at('page:trade', 'guest'))
    await press('Edit the gate Trade desk')
    await type('Why the gate Trade desk stands here', '  Agreed with the stockists in May. ')
    await press('done')
    expect(why()).toContain('Agreed with the stockists in May.')
    expect(loft.draft.gates!.find(gate => gate.id === 'trade')!.note).toBe('Agreed with the stockists in May.')
  })

  it('tells what a refused tier lacks, and shows the board as if they had it', async () => {
    const { find, wrapper, loft, why, press, text } = await reach(at('page:mending', 'guest'))
    const ways = [...document.querySelectorAll('[aria-label="What they lack"] a')]
    expect(ways.map(way => way.textContent)).toEqual(['Maker', 'Classroom'])
    const query = Object.fromEntries(new URL(ways[0]!.getAttribute('href')!, 'http://a').searchParams)
    expect(query).toEqual({ thing: 'page:mending', tier: 'guest,level:maker', look: 'guest,level:maker' })
    const { tiers } = loft.board!
    route.query = query
    await wrapper.vm.$nextTick()
    await flushPromises()
    expect(loft.board!.tiers.map(tier => tier.name)).toEqual([...tiers.map(tier => tier.name), 'Guest (as\u00A0if)'])
    expect(why()).toContain('Guest, as if Maker, opens it')
    // It is looked at and nothing more: no tier of the site, and no part of what the draft moves.
    expect([loft.board!.impact.moved, loft.draft.tiers!.length]).toEqual([0, tiers.length])
    await press('Leave Guest, as if Maker')
    await flushPromises()
    expect(loft.board!.tiers.length).toBe(tiers.length)
    expect(why()).toContain('Guest glimpses it')
    for (const broken of ['level', 'nothing:x', 'sign:over', 'date:soon', 'fact:%', '%'])
      expect(readAsIfs(broken), broken).toBeNull()
    const parts = [{ fact: 'a,b:c', value: true }, { level: 'x y' }, { date: '2026-12-01' }] as const
    expect(readAsIfs(asIfTexts(parts))).toEqual(parts)
    expect([find('Filter by name or address') !== null, text().includes('as if')]).toEqual([true, false])
  })

  it('leads to the page as that tier', async () => {
    const { keys } = await reach(at('page:trade', 'maker'))
    await keys('w')
    expect(led).toEqual([`/loft/site?path=${encodeURIComponent('/trade')}&as=maker`])
  })
})
