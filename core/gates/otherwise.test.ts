import { describe, expect, it } from 'vitest'
import { wexlowCase } from '../../tests/support/wexlow-case'
import type { Gate } from '../rulebook/gate'
import { PlainDecider } from './plain-decider'
import { RuleSet } from './rule-set'

const world = wexlowCase()
const maker = { level: { atLeast: 'maker' } }
const notice = (text: string) => ({ text })
const product = world.site.products!.find(one => one.categories && one.categories.length > 0)!
const [one, two] = world.site.categories!.filter(category => !category.parent).map(category => category.id) as [
  string,
  string,
]
/** The product, in these categories. */
const siteWith = (categories: string[]) => ({
  ...world.site,
  products: world.site.products!.map(one => (one.id === product.id ? { ...one, categories } : one)),
})
const guest = (gates: Gate[], categories = product.categories!) =>
  new PlainDecider(new RuleSet({ ...world.book, gates }, siteWith(categories)), {}, 0).decide({
    kind: 'product',
    id: product.id,
  })
const noticeOf = (...given: Parameters<typeof guest>) => {
  const { open, take, takeNotice } = guest(...given)
  return open && !take ? (takeNotice as { text?: string } | undefined)?.text : 'not asked'
}
const kept: Gate = { id: 'shop', on: { kind: 'product' }, take: maker, takeNotice: notice('makers take it') }

describe('what is said where an open product is not for one to take', () => {
  it('is what the innermost gate says, and of a guard only where it is the guard that refuses', () => {
    const guard = (take: Gate['take']): Gate => ({
      id: 'way',
      on: { path: '/**' },
      ...(take ? { take } : {}),
      takeNotice: notice('not on this way'),
    })
    expect(noticeOf([kept])).toBe('makers take it')
    expect(noticeOf([kept, guard(maker)])).toBe('not on this way')
    expect(noticeOf([kept, guard({ everyone: true })])).toBe('makers take it')
    expect(noticeOf([kept, { ...guard(maker), takeNotice: undefined } as unknown as Gate])).toBe('makers take it')
  })

  it('is forgotten by a later gate that says anew who opens or takes, and by no other', () => {
    const self = (more: Partial<Gate>): Gate => ({ id: 'self', on: { product: product.id }, ...more })
    const anew = { inherit: false }
    expect(noticeOf([kept, self({ ...anew, take: maker })])).toBeUndefined()
    expect(noticeOf([kept, self({ ...anew, open: { everyone: true }, take: { nobody: true } })])).toBeUndefined()
    expect(noticeOf([kept, self({ take: maker })])).toBe('makers take it')
    expect(noticeOf([kept, self({ ...anew, find: { everyone: true } })])).toBe('makers take it')
  })

  it('counts while one of the categories a product lies in keeps it', () => {
    const resets = (id: string): Gate => ({ id, on: { category: id }, inherit: false, take: maker })
    expect(noticeOf([kept, resets(one)], [one, two])).toBe('makers take it')
    expect(noticeOf([kept, resets(one), resets(two)], [one, two])).toBeUndefined()
  })
})

describe('what stands in place of what does not open', () => {
  const wall: Gate = {
    id: 'wall',
    on: { kind: 'product' },
    open: maker,
    find: { everyone: true },
    otherwise: { teaser: true },
  }
  const self = (more: Partial<Gate>): Gate => ({ id: 'self', on: { product: product.id }, ...more })

  it('is forgotten by a gate that says anew who opens; not by one that says only who takes', () => {
    const of = (...gates: Gate[]) => guest(gates).otherwise
    expect(of(wall)).toEqual({ teaser: true })
    expect(of(wall, self({ inherit: false, open: maker }))).not.toEqual({ teaser: true })
    expect(of(wall, self({ inherit: false, take: maker }))).toEqual({ teaser: true })
    expect(of(wall, self({ open: maker }))).toEqual({ teaser: true })
  })
})
