import { describe, expect, it } from 'vitest'
import { pageDifferences } from '../../app/loft/site/page/page-differences'
import type { PageView, ViewBlock } from '../../core/view/view'
import type { PageAnswer } from '../../app/loft/kit/sheet/questions'

const part = (id: string, ...blocks: ViewBlock[]): ViewBlock => ({ kind: 'part', id, blocks })
const words = (html: string): ViewBlock => ({ kind: 'text', title: '', html })
const answer = (blocks: ViewBlock[], more: Partial<PageView> = {}) =>
  ({
    view: { status: 200, header: [], banner: [], footer: [], menu: [], blocks, below: [], ...more },
  }) as unknown as PageAnswer
const told = (one: PageAnswer, two: PageAnswer) =>
  pageDifferences(one, two).map(({ part: id, what, only }) => [id ?? what, only])

describe('what two tiers are sent differently of a page', () => {
  it('is told part by part, once each: what stands in a group or is one of several by itself', () => {
    const group = (...inner: ViewBlock[]) => part('box', { kind: 'group', title: 'Box', blocks: inner })
    const one = answer([
      part('a', words('same')),
      group(part('b', words('for one'))),
      part('several', part('x', words('x'))),
    ])
    const two = answer([
      part('a', words('same')),
      group(part('c', words('for two'))),
      part('several', part('y', words('y'))),
    ])
    expect(told(one, two)).toEqual([
      ['b', 'one'],
      ['x', 'one'],
      ['c', 'two'],
      ['y', 'two'],
    ])
    expect(told(one, one)).toEqual([])
  })

  it('counts what is sent in place of a part, the page itself, its menu and what lies below', () => {
    const notice: ViewBlock = { kind: 'notice', text: 'Not yet', guest: true }
    const item = { label: 'Trade', locked: false, here: false, items: [] }
    expect(told(answer([part('a', words('all'))]), answer([part('a', notice)]))).toEqual([['a', 'both']])
    expect(told(answer([]), answer([], { status: 401, menu: [{ ...item, href: '/trade' }] }))).toEqual([
      ['The page', 'one'],
      ['The menu', 'both'],
    ])
  })
})
