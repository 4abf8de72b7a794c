import { describe, expect, it } from 'vitest'
import type { Condition } from '../conditions/condition'
import { CompiledRules } from '../gates/compiled'
import type { Gate } from '../rulebook/gate'
import { invertedCopies } from './inverted-copies'

const nowMs = Date.parse('2026-11-26T10:30:00Z')
const found = (opens: Record<string, Condition | Partial<Gate> | null>) =>
  invertedCopies(
    new CompiledRules(
      {
        bravik: 'rulebook/1',
        levels: [
          { id: 'maker', rank: 20 },
          { id: 'guild', rank: 30 },
        ],
        gates: Object.entries(opens).flatMap(([id, said]): Gate[] =>
          said ? [{ id: `g-${id}`, on: { block: id }, ...('open' in said ? said : { open: said }) } as Gate] : [],
        ),
      },
      {
        timezone: 'Europe/Dublin',
        currency: 'EUR',
        pages: [{ id: 'p', path: '/p' }],
        blocks: Object.keys(opens).map(id => ({ id, in: { page: 'p' } })),
      },
    ),
    { page: 'p' },
    nowMs,
  )
const guild: Condition = { level: { atLeast: 'guild' } }

describe('parts that were copied and inverted', () => {
  it('are found beside each other, whichever comes first, and whichever way it is said', () => {
    expect(found({ a: guild, b: { not: guild }, c: null })).toEqual([{ parts: ['a', 'b'], dropped: 'g-b' }])
    expect(found({ intro: null, a: { not: guild }, b: guild })).toEqual([{ parts: ['b', 'a'], dropped: 'g-a' }])
    expect(found({ a: { signedIn: true }, b: { signedIn: false } })).toEqual([{ parts: ['a', 'b'], dropped: 'g-b' }])
    const makerOnly: Condition = { all: [{ level: { atLeast: 'maker' } }, { not: guild }] }
    expect(found({ a: guild, b: makerOnly, c: { not: { level: { atLeast: 'maker' } } } })).toEqual([
      { parts: ['a', 'b', 'c'], dropped: 'g-c' },
    ])
  })

  it('are none where some get both or neither, where they do not stand beside each other, or say more', () => {
    expect(found({ a: guild, b: { not: { level: { atLeast: 'maker' } } } })).toEqual([])
    expect(found({ a: guild, b: null, c: { not: guild } })).toEqual([])
    const teased = { open: { not: guild }, otherwise: { notice: { text: 'For the Guild.' } } }
    expect(found({ a: guild, b: teased })).toEqual([])
    expect(found({ a: { country: { in: ['IE'] } }, b: { not: { country: { in: ['IE'] } } } })).toEqual([])
  })
})
