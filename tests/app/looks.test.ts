import { describe, expect, it } from 'vitest'
import { asIfPart, offeredAsIf } from '../../app/loft/kit/words/as-if-words'
import { isLook, lookText, lookWords, plainLook, readLook, tierOfLook, withMore } from '../../app/loft/kit/looks/looks'
import type { Look } from '../../app/loft/kit/looks/looks'
import { lexiconOf } from '../../core/sentences/lexicon'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { wexlowSite } from '../support/wexlow-site'

const lexicon = lexiconOf(wexlowRulebook, wexlowSite)
const nameOf = (base: Look['base']) => ('person' in base ? 'Mako Strand' : base.tier)

describe('a look', () => {
  it('is written into an address and read back, whatever is in it', () => {
    const looks: Look[] = [
      { base: { tier: 'guest' }, parts: [] },
      {
        base: { tier: 'guest' },
        parts: [{ country: 'ES' }, { device: 'phone' }, { weekday: 'fri' }, { time: '09:00' }],
      },
      {
        base: { person: 'p,1:2' },
        parts: [
          { fact: 'a,b:c', value: true },
          { basket: 'x:y', quantity: 3 },
        ],
      },
      { base: { person: 'p-4' }, parts: [{ level: 'maker' }, { level: 'guild' }, { orders: 2 }, { spent: 1200 }] },
    ]
    for (const look of looks) expect(readLook(lookText(look))).toEqual(look)
    expect(readLook('guest,time:09:00')?.parts).toEqual([{ time: '09:00' }])
    expect(['guest', 'person:p-4', 'guest,device:phone'].map(isLook)).toEqual([false, true, true])
    expect(withMore('person:p-4,level:maker', [{ country: 'ES' }])).toBe('person:p-4,level:maker,country:ES')
    expect(plainLook('person:p-4,level:maker')).toBe('person:p-4')
    for (const broken of [
      '',
      ',level:x',
      'guest,',
      'guest,nothing:x',
      'person:',
      'guest,basket:x:0',
      'guest,spent:-1',
      '%',
    ])
      expect(readLook(broken), broken).toBeNull()
  })

  it('is said in a line', () => {
    expect(lookWords('person:p-4,level:guild,country:ES,time:09:00', lexicon, nameOf)).toBe(
      'Mako Strand, as if Guild, in Spain, at 09:00',
    )
    expect(lookWords('guest,basket:fell-dk:2,spent:1250', lexicon, nameOf)).toMatch(
      /^guest, as if has spent 12.50, with 2 of .* in the basket$|^guest, as if with 2 of .* in the basket, has spent 12.50$/,
    )
  })

  it('is kept as a tier of what rules see, and not of who it was', () => {
    const visitor = {
      person: { id: 'p-4', name: 'Mako Strand', email: 'mako@wexlow.example' },
      levels: [{ level: 'maker', since: '2026-01-01T00:00:00Z' }],
      request: { country: 'ES' },
    }
    expect(tierOfLook(visitor, 'spanish')).toEqual({ ...visitor, person: { id: 'tier-spanish', name: 'A visitor' } })
    expect(tierOfLook({ person: null }, 'g')).toEqual({})
  })

  it('is given part by part, each as it can be said again', () => {
    const more = { moneyDigits: 2, quantity: 4, fact: 'sheep' }
    expect(asIfPart('spent', '12.5', more)).toEqual({ spent: 1250 })
    expect(asIfPart('basket', 'fell-dk', more)).toEqual({ basket: 'fell-dk', quantity: 4 })
    expect(asIfPart('fact', 'keeps', more)).toEqual({ fact: 'keeps', value: 'sheep' })
    expect(asIfPart('referrer', 'https://a.example/b', more)).toEqual({ referrer: 'https://a.example/b' })
    for (const [key, wrong] of [
      ['orders', 'two'],
      ['time', 'nine'],
      ['spent', '1,2'],
      ['level', ' '],
    ] as const)
      expect(asIfPart(key, wrong, more), key).toBeNull()
    expect(offeredAsIf).not.toContain('at')
  })
})
