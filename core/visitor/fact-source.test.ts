import { describe, expect, it } from 'vitest'
import { factSource, factsOfRequest, factValue, filledPath, groupsOf, ownFacts, valueAt } from './fact-source'

const hall = { id: 'hall', type: 'choice', choices: ['north', 'south'] }

describe('where facts come from', () => {
  it.each([
    ['number', '2.5', 2.5],
    ['number', ' ', undefined],
    ['number', 'many', undefined],
    ['number', 'Infinity', undefined],
    ['flag', 'Yes', true],
    ['flag', '0', false],
    ['flag', 'maybe', undefined],
    ['date', '2026-11-26', '2026-11-26'],
    ['date', '2026-02-30', undefined],
    ['text', '', ''],
    ['number', null, undefined],
    ['flag', true, true],
    ['text', { a: 1 }, undefined],
  ])('a %s is read from %j as %j', (type, given, value) => {
    expect(factValue({ type }, given)).toBe(value)
  })

  it('an answer that turns on one is kept by all its address names', () => {
    const service = (path: string) => groupsOf({ service: 'desk', path, at: '/n' })
    expect(service('/w?of={email}&in={language}&at={country}')).toEqual(['person', 'country', 'language'])
    expect(service('/open')).toEqual([])
    expect([groupsOf({ query: 'hall' }), groupsOf({ cookie: 'seen' }), groupsOf(undefined)]).toEqual([
      ['query'],
      ['person'],
      ['person'],
    ])
  })

  it('a request says what is its own to say, and no more', () => {
    const facts = [
      { ...hall, from: { query: 'hall' } },
      { id: 'seen', type: 'flag', from: { cookie: 'seen' } },
      { id: 'spindles', type: 'number' },
      { id: 'wheels', type: 'number', from: { service: 'desk', path: '/w', at: '/n' } },
    ]
    const request = {
      query: { hall: 'north', spindles: '9', wheels: '9' },
      cookie: (name: string) => (name === 'seen' ? 'yes' : '9'),
    }
    expect(factsOfRequest(facts, request)).toEqual({ hall: 'north', seen: true })
    expect(factsOfRequest(facts, { query: { hall: 'attic' }, cookie: () => undefined })).toEqual({})
    expect(ownFacts(facts, { hall: 'south', seen: true, spindles: 2, wheels: 3 })).toEqual({ spindles: 2 })
  })

  it('an answer is read at a JSON Pointer', () => {
    expect(valueAt({ a: { 'b/c': [7] } }, '/a/b~1c/0')).toBe(7)
    expect(valueAt(5, '')).toBe(5)
    expect(valueAt({}, '/constructor')).toBeUndefined()
    expect(valueAt(null, '/a')).toBeUndefined()
  })

  it('a path is filled in escaped, and not asked for where something is not known', () => {
    expect(filledPath('/w?of={email}', { email: 'a&b@x.example' })).toBe('/w?of=a%26b%40x.example')
    expect(filledPath('/w?of={email}', {})).toBeNull()
    expect(filledPath('/w?of={constructor}', {})).toBeNull()
    expect(filledPath('/w', {})).toBe('/w')
  })

  it.each([
    { service: 'desk', path: '//elsewhere.example/', at: '' },
    { service: 'desk', path: 'http://elsewhere.example/', at: '' },
    { service: 'desk', path: '/w', at: 'n' },
    { service: 'desk', path: '/w', at: '/n', withinMs: 60_000 },
    { query: 'a b' },
    { cookie: '' },
    { header: 'x' },
  ])('%j is no source', source => {
    expect(factSource.safeParse(source).success).toBe(false)
  })
})
