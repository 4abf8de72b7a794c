import { expect, it } from 'vitest'
import { pathPattern, queryFits } from './path-pattern'

it.each<[string, string, boolean]>([
  ['/trade', '/trade', true], ['/trade', '/trade/', true], ['/trade/', '/trade', true], ['/trade', '/trade/x', false], ['/trade', '/traders', false],
  ['/trade/*', '/trade/x', true], ['/trade/*', '/trade', false], ['/trade/*', '/trade/x/y', false], ['/trade/**', '/trade', true], ['/trade/**', '/trade/x/y', true],
  ['/**/prices', '/prices', true], ['/**/prices', '/a/b/prices', true], ['/a*', '/ab', false], ['/a*', '/a*', true], ['/a.b', '/aXb', false], ['/**', '/', true], ['/', '/', true], ['/', '/x', false],
])('%s on %s is %s', (pattern, path, matches) => {
  expect(pathPattern(pattern).matches(path)).toBe(matches)
})

it('asks for every pair of its query', () => {
  const { pairs } = pathPattern('/notes/*?preview=1&lang=')
  expect([{ preview: '1', lang: '' }, { preview: '1' }, { preview: '2', lang: '' }, { preview: '1', lang: '', more: 'x' }].map(query => queryFits(pairs, query as Record<string, string>))).toEqual([true, false, false, true])
})
