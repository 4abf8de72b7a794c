import { describe, expect, it } from 'vitest'
import { movedTo } from '../../app/loft/frame/moved'
import { places } from '../../app/loft/frame/places'

describe('old addresses of the console', () => {
  it('lead on to where things stand now, with what they asked for', () => {
    expect(movedTo('/loft/content', { thing: 'page:visit' })).toEqual({
      path: '/loft/site',
      query: { thing: 'page:visit' },
    })
    expect(movedTo('/loft/walk', { path: '/trade', tier: 'guild' })).toEqual({
      path: '/loft/site',
      query: { path: '/trade', as: 'guild' },
    })
    expect(movedTo('/loft/site', { tab: 'content', edition: '3' })).toEqual({
      path: '/loft/site',
      query: { edition: '3' },
    })
    expect(movedTo('/loft/site', { path: '/trade' })).toBeNull()
    expect(movedTo('/loft/roles/stockist', {})).toEqual({ path: '/loft/groups/role/stockist', query: {} })
    expect(movedTo('/loft/people', { tab: 'levels' })).toEqual({ path: '/loft/who', query: {} })
    expect(movedTo('/loft/people', { tab: 'mail' })).toEqual({ path: '/loft/door', query: { tab: 'mail' } })
  })

  it('are only those: a tab that stands there still, or that nothing is called, stays', () => {
    for (const tab of ['queues', 'firms', 'constructor', '']) expect(movedTo('/loft/people', { tab })).toBeNull()
    expect(movedTo('/loft/people', { person: 'p-pia' })).toBeNull()
    expect(movedTo('/loft/roles/a/b', {})).toBeNull()
  })

  it('lead to tabs there are', () => {
    for (const tab of ['levels', 'roles', 'audiences', 'tiers', 'staff', 'sign-up', 'landings', 'site', 'mail']) {
      const { path, query } = movedTo('/loft/people', { tab })!
      const place = places.find(one => one.path === path)!
      if (query.tab) expect(place.tabs!.some(one => one.key === query.tab)).toBe(true)
    }
    expect(movedTo('/loft/who', { tab: 'roles' })).toEqual({ path: '/loft/who', query: {} })
    expect(movedTo('/loft/who', { tab: 'tiers' })).toEqual({ path: '/loft', query: {} })
    expect(movedTo('/loft/who', { tab: 'staff' })).toBeNull()
    expect(movedTo('/loft/groups/level/maker', {})).toEqual({ path: '/loft/who', query: { at: 'level:maker' } })
  })
})
