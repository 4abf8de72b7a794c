import { describe, expect, it } from 'vitest'
import { deciderAt, forMakers } from '../../../tests/support/page-at'
import { opensWhereItStands, sharersOf } from './standing-open'

const block = (id: string) => ({ kind: 'block' as const, id })
const parts = [
  { id: 'here', in: { page: 'wool' } },
  { id: 'frame', in: { frame: 'footer' } },
  { id: 'shelf', in: { frame: 'shelf' } },
  { id: 'inner', in: { block: 'shelf' } },
]
const opens = (
  id: string,
  { more = [], gates = [], book = {} }: { more?: object[]; gates?: object[]; book?: object } = {},
) => {
  const decider = deciderAt({
    things: { pages: [{ id: 'wool', path: '/wool' }], blocks: [...parts, ...more] },
    gates,
    book,
  })
  return opensWhereItStands(block(id), decider.rules, thing => decider.decide(thing).open)
}
const sharer = { id: 'sharer', shares: 'shelf', in: { page: 'wool' } }

describe('a part that is asked for by its own address', () => {
  it('is there where it opens; of what has no part in others nothing else is asked', () => {
    expect([opens('here'), opens('frame'), opens('gone')]).toEqual([true, true, false])
    expect(opens('here', { gates: [{ on: { block: 'here' }, open: forMakers }] })).toBe(false)
    const { rules } = deciderAt({ things: { pages: [{ id: 'wool', path: '/wool' }] } })
    expect(opensWhereItStands({ kind: 'page', id: 'wool' }, rules, () => true)).toBe(true)
  })

  it('of the shelf is there where a part that opens shows it, or what it stands in', () => {
    expect([opens('shelf'), opens('inner')]).toEqual([false, false])
    expect([opens('shelf', { more: [sharer] }), opens('inner', { more: [sharer] })]).toEqual([true, true])
    const shut = [{ on: { block: 'sharer' }, open: forMakers }]
    expect([opens('shelf', { more: [sharer], gates: shut }), opens('inner', { more: [sharer], gates: shut })]).toEqual([
      false,
      false,
    ])
    const other = { ...sharer, id: 'other' }
    expect(opens('shelf', { more: [sharer, other], gates: shut })).toBe(true)
    const inside = { id: 'inner-sharer', shares: 'inner', in: { page: 'wool' } }
    expect([opens('shelf', { more: [inside] }), opens('inner', { more: [inside] })]).toEqual([false, true])
    // One that stands on the shelf itself shows nowhere.
    expect(opens('shelf', { more: [{ ...sharer, in: { frame: 'shelf' } }] })).toBe(false)
    expect(opens('shelf', { more: [{ id: 'ring', shares: 'shelf', in: { block: 'shelf' } }] })).toBe(false)
  })

  it('of the shelf is there where it stands in place of what somebody is refused', () => {
    const swap = { swap: { block: 'shelf' } }
    const gate = (otherwise: object) => ({ gates: [{ on: { page: 'wool' }, open: forMakers, otherwise }] })
    expect([opens('shelf', gate(swap)), opens('inner', gate(swap))]).toEqual([true, true])
    expect(opens('shelf', gate({ guest: swap }))).toBe(true)
    expect(opens('shelf', gate({ signedIn: swap }))).toBe(true)
    expect(opens('shelf', gate({ teaser: true }))).toBe(false)
    expect(opens('shelf', gate({ swap: { block: 'other' } }))).toBe(false)
    expect(opens('shelf', { book: { settings: { otherwise: { page: swap } } } })).toBe(true)
  })

  it('says which parts share it', () => {
    const blocks = [...parts, sharer, { ...sharer, id: 'second' }]
    const { rules } = deciderAt({ things: { blocks } })
    expect([sharersOf('shelf', rules), sharersOf('here', rules)]).toEqual([['sharer', 'second'], []])
  })
})
