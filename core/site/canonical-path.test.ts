import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { canonicalPath } from './canonical-path'

describe('the canonical path', () => {
  it.each([
    ['/', '/'],
    ['/visit', '/visit'],
    ['/visit/', '/visit'],
    ['//visit', '/visit'],
    ['/a//b', '/a/b'],
    ['/loft/../visit', '/visit'],
    ['/loft/%2e%2e/visit', '/visit'],
    ['/loft/.%2E/visit', '/visit'],
    ['/%2e%2e', '/'],
    ['/./a/.', '/a'],
    ['/../..', '/'],
    ['/%76isit', '/visit'],
    ['/caf%c3%a9', '/caf%C3%A9'],
    ['/a%20b', '/a%20b'],
    ['/a|b', '/a%7Cb'],
    ['/a%3Ab', '/a:b'],
  ])('of %s is %s', (raw, canonical) => expect(canonicalPath(raw)).toBe(canonical))

  it.each([
    '',
    'visit',
    'http://evil.example/',
    '*',
    '/%',
    '/%zz',
    '/%00',
    '/a%0db',
    '/a\tb',
    '/a\\b',
    '/a%5cb',
    '/a%2fb',
    '/%ff',
    '/%ed%a0%80',
    '/caf\u00e9',
  ])('of %j cannot be read', raw => expect(canonicalPath(raw)).toBeNull())

  it('is its own canonical form, and names no segment that climbs', () => {
    const piece = fc.constantFrom(
      '/',
      '.',
      '..',
      '%2e',
      '%2F',
      '%41',
      'a',
      'b',
      '%',
      '\\',
      '%00',
      ' ',
      '?',
      'é',
      '%C3%A9',
    )
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 12 }), pieces => {
        const once = canonicalPath(`/${pieces.join('')}`)
        if (once === null) return
        expect(canonicalPath(once)).toBe(once)
        expect(decodeURIComponent(once).split('/').slice(1)).not.toContain('..')
        expect(once).not.toMatch(/.\/$|\/\//)
      }),
    )
  })
})
