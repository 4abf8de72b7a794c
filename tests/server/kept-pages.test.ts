import { expect, it } from 'vitest'
import { keepPage, keptPage, keptSize } from '../../server/services/pages/kept-pages'

it('are bounded by bytes, those used longest ago going first, and one too large is not kept at all', () => {
  const page = 'x'.repeat(1_000_000)
  for (let i = 0; i < 100; i++) {
    keepPage(`page ${i}`, page)
    keptPage('page 0')
  }
  expect(keptSize().bytes).toBeLessThanOrEqual(64 * 1_048_576)
  expect([keptPage('page 0')?.html.length, keptPage('page 1'), keptPage('page 99')?.html.length]).toEqual([
    1_000_000,
    undefined,
    1_000_000,
  ])
  keepPage('huge', 'x'.repeat(3_000_000))
  expect(keptPage('huge')).toBeUndefined()
})
