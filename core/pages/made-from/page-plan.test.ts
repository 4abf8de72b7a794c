import { describe, expect, it } from 'vitest'
import { askAt, forMakers, guest, maker, pia } from '../../../tests/support/page-at'
import { CompiledDecider } from '../../gates/compiled-decider'
import type { Visitor } from '../../visitor/visitor'
import { assemble } from '../assemble'
import { PagePlan } from './page-plan'

/** A plan of one page, learned from whoever comes. */
function planOf(
  gates: object[],
  things: Record<string, object[]> = { pages: [{ id: 'wool', title: 'Wool', path: '/wool' }] },
  more: object = {},
) {
  const { read: _, ...ask } = askAt('/wool', { things, gates, ...more })
  const store = new Map<string, string>()
  const plan = new PagePlan<string>(store, 'plan')
  const asOf = (visitor: Visitor) => ({
    ...ask,
    decider: new CompiledDecider(ask.rules, visitor, ask.decider.asker.at),
  })
  return {
    plan,
    store,
    find: (visitor: Visitor) => plan.find(asOf(visitor)),
    learn: async (visitor: Visitor, what: string) => {
      const asked = asOf(visitor)
      plan.learn(asOf(visitor), await assemble(asked), what)
    },
  }
}

describe('a plan of a page', () => {
  it('knows nothing before a page was made, and then the page of all who are answered alike', async () => {
    const { find, learn, plan } = planOf([{ on: { page: 'wool' }, open: forMakers }])
    expect([find(guest), [...plan.looks]]).toEqual([undefined, []])
    await learn(guest, 'shut')
    expect(find(guest)).toBe('shut')
    expect(find(maker)).toBeUndefined()
    await learn(maker, 'open')
    expect([find(guest) ?? 'learn again', find(maker)]).toEqual(['shut', 'open'])
    expect(find({ ...maker, request: { country: 'FR' } })).toBe('open')
    // The same verdict, but somebody who is in.
    expect(find(pia)).toBeUndefined()
    expect([...plan.looks]).toContain('person')
  })

  it('has a name of its own in the store', async () => {
    const { store, learn } = planOf([])
    await learn(guest, 'x')
    expect([...store.keys()][0]).toMatch(/^plan\n1\n-/)
  })

  it('learns what is asked only of some, and forgets what it knew without that', async () => {
    const things = {
      pages: [{ id: 'wool', title: 'Wool', path: '/wool' }],
      blocks: [{ id: 'a', in: { page: 'wool' } }],
    }
    const french = { country: { in: ['FR'] } }
    const gates = [
      { on: { page: 'wool' }, open: forMakers },
      { on: { block: 'a' }, open: french },
    ]
    const { find, learn } = planOf(gates, things)
    await learn(guest, 'shut')
    await learn(maker, 'without')
    expect(find({ ...maker, request: { country: 'FR' } })).toBeUndefined()
    await learn({ ...maker, request: { country: 'FR' } }, 'with')
    expect(find({ ...maker, request: { country: 'FR' } })).toBe('with')
    expect(find({ ...maker, request: { country: 'IE' } })).not.toBe('with')
  })

  it('tells apart whom a guard refuses, which waits for what stands behind the path', async () => {
    const gates = [
      { on: { page: 'wool' }, open: forMakers, otherwise: { notice: { text: 'Makers' } } },
      {
        on: { path: '/wool?from=poster' },
        open: { country: { in: ['FR'] } },
        otherwise: { notice: { text: 'French' } },
      },
    ]
    const { find, learn } = planOf(gates)
    const from = (query: Record<string, string>, country: string): Visitor => ({
      ...guest,
      request: { query, country },
    })
    await learn(from({}, 'IE'), 'makers')
    expect(find(from({}, 'FR'))).toBe('makers')
    expect(find(from({ from: 'poster' }, 'IE'))).toBeUndefined()
    expect(find(from({ from: 'poster' }, 'FR'))).toBe('makers')
    await learn(from({ from: 'poster' }, 'IE'), 'french')
    expect(find(from({ from: 'poster' }, 'IE'))).toBe('french')
    expect(find(from({ from: 'other' }, 'IE'))).toBe('makers')
  })

  it('tells apart conditions that are not known from those that are not so', async () => {
    const accent = { look: 'tint', for: { fact: { name: 'craft', is: 'dyer' } } }
    const things = {
      pages: [{ id: 'wool', title: 'Wool', path: '/wool' }],
      blocks: [{ id: 'a', in: { page: 'wool' }, accent }],
    }
    const { find, learn } = planOf([], things, {
      content: { 'block:a': { body: { markdown: 'a' } } },
      book: { facts: [{ id: 'craft', type: 'text' }] },
    })
    const crafts = (craft: string): Visitor => ({ ...pia, facts: { craft } })
    await learn(crafts('spinner'), 'plain')
    expect(find(crafts('knitter'))).toBe('plain')
    expect(find(crafts('dyer'))).toBeUndefined()
    await learn(crafts('dyer'), 'tinted')
    expect(find(crafts('dyer'))).toBe('tinted')
  })

  it('asks again what else was asked, by name', async () => {
    const things = {
      pages: [{ id: 'wool', title: 'Wool', path: '/wool' }],
      blocks: [{ id: 'a', kind: 'account', in: { page: 'wool' } }],
    }
    const { find, learn } = planOf([], things, { content: { 'block:a': { body: {} } } })
    await learn(pia, 'visitor')
    expect(find({ ...pia, roles: ['islander'] })).toBe('visitor')
    expect(find({ ...pia, roles: ['keeper'] })).toBeUndefined()
  })
})
