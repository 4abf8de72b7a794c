import fc from 'fast-check'
import { expect, it } from 'vitest'
import { pathPattern, queryFits } from './path-pattern'

it.each<[string, string, boolean]>([
  ['/trade', '/trade', true],
  ['/trade', '/trade/', true],
  ['/trade/', '/trade', true],
  ['/trade', '/trade/x', false],
  ['/trade', '/traders', false],
  ['/trade/*', '/trade/x', true],
  ['/trade/*', '/trade', false],
  ['/trade/*', '/trade/x/y', false],
  ['/trade/**', '/trade', true],
  ['/trade/**', '/trade/x/y', true],
  ['/**/prices', '/prices', true],
  ['/**/prices', '/a/b/prices', true],
  ['/a*', '/ab', false],
  ['/a*', '/a*', true],
  ['/a.b', '/aXb', false],
  ['/**', '/', true],
  ['/', '/', true],
  ['/', '/x', false],
])('%s on %s is %s', (pattern, path, matches) => {
  expect(pathPattern(pattern).matches(path)).toBe(matches)
})

it('asks for every pair of its query', () => {
  const { pairs } = pathPattern('/notes/*?preview=1&lang=')
  expect(
    [
      { preview: '1', lang: '' },
      { preview: '1' },
      { preview: '2', lang: '' },
      { preview: '1', lang: '', more: 'x' },
    ].map(query => queryFits(pairs, query as Record<string, string>)),
  ).toEqual([true, false, false, true])
})

it('matches as its definition says, however many `**` there are', () => {
  const byDefinition = ([wanted, ...more]: string[], asked: string[]): boolean => {
    if (wanted === undefined) return !asked.length
    if (wanted === '**')
      return byDefinition(more, asked) || (asked.length > 0 && byDefinition([wanted, ...more], asked.slice(1)))
    return asked.length > 0 && (wanted === '*' || wanted === asked[0]) && byDefinition(more, asked.slice(1))
  }
  const pattern = fc.array(fc.constantFrom('a', 'b', '*', '**'), { maxLength: 6 })
  const path = fc.array(fc.constantFrom('a', 'b', 'c'), { maxLength: 7 })
  fc.assert(
    fc.property(pattern, path, (wanted, asked) => {
      expect(pathPattern(`/${wanted.join('/')}`).matches(`/${asked.join('/')}`)).toBe(byDefinition(wanted, asked))
    }),
    { numRuns: 2000 },
  )
})

it('answers in steps, not in years, where many `**` meet a long path', () => {
  const { matches } = pathPattern(`${'/**/a'.repeat(80)}/end`)
  const start = performance.now()
  expect(matches('/a'.repeat(4000))).toBe(false)
  expect(performance.now() - start).toBeLessThan(2000)
})
