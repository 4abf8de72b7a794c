import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyCondition, anyLeaf, anyVisitor } from '../../tests/support/arbitrary-rules'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { CompiledRules } from '../gates/compiled'
import { CompiledDecider } from '../gates/compiled-decider'
import { rightBit } from '../gates/verdict'
import type { Landing, Rulebook } from '../rulebook/rulebook'
import type { Visitor } from '../visitor/visitor'
import { explainLanding } from './explain-landing'
import { landingOf } from './landing'

const world = wexlowCase()
const person: Visitor = { person: { id: 'p-ana', name: 'Ana' } }
const rulesOf = (landings: Landing[], gates: Rulebook['gates'] = []) =>
  new CompiledRules({ ...world.book, gates, landings }, world.site)
const everyone = { everyone: true as const }
const to = (path: string, more: Partial<Landing> = {}): Landing => ({
  id: path,
  on: 'signIn',
  for: everyone,
  to: path,
  ...more,
})

const anyLandings = fc
  .array(
    fc.record({
      on: fc.constantFrom('signIn' as const, 'signIn' as const, 'signOut' as const),
      for: anyCondition(anyLeaf(world)),
      to: fc.constantFrom('/', '/trade', '/gone', '/hello/{name}', '/of/{level}', '//elsewhere', '/loft'),
      always: fc.boolean(),
      active: fc.constantFrom(true, true, false),
    }),
    { maxLength: 6 },
  )
  .map(list => list.map((one, i): Landing => ({ id: `l${i}`, ...one })))

describe('an explained landing', () => {
  it('leads where the person really goes, and one sentence leads at most', () => {
    fc.assert(
      fc.property(anyLandings, anyVisitor, fc.boolean(), (landings, visitor, wasRefused) => {
        const rules = rulesOf(landings, [{ id: 'g', on: { page: 'trade' }, open: { role: { anyOf: ['stockist'] } } }])
        const decider = new CompiledDecider(rules, visitor, 0)
        const refused = wasRefused ? { kind: 'page' as const, id: 'trade' } : undefined
        const real = landingOf(landings, {
          on: 'signIn',
          asker: decider.asker,
          admits: one => decider.admits(one),
          opens: one => (decider.bits(one) & rightBit.open) !== 0,
          ...(refused ? { refused: { resource: refused, path: '/trade' } } : {}),
        })
        const why = explainLanding(rules, visitor, 'signIn', 0, refused)
        expect([why.to, why.back ?? false]).toEqual([real.to, real.back ?? false])
        const leading = why.steps.filter(step => step.fate === 'leadsThere')
        expect(leading.length).toBeLessThanOrEqual(1)
        if (real.landing) expect(leading[0]?.id).toBe(real.landing)
        // Whatever comes before the one that leads was passed over for a reason of its own.
        const at = why.steps.findIndex(step => step.fate === 'leadsThere')
        for (const step of why.steps.slice(0, Math.max(0, at)))
          expect(['notFor', 'notKnown', 'inactive', 'noPath']).toContain(step.fate)
        for (const step of why.steps.slice(at + 1)) if (at >= 0) expect(step.fate).not.toBe('noPath')
      }),
      { numRuns: 300 },
    )
  })

  it('says of each sentence how it fared', () => {
    const landings = [
      to('/a', { active: false }),
      to('/b', { for: { role: { anyOf: ['stockist'] } } }),
      to('/c', { for: { country: { in: ['IE'] } } }),
      to('//d'),
      to('/trade'),
      to('/f'),
      to('/g', { on: 'signOut' }),
    ]
    expect(explainLanding(rulesOf(landings), person, 'signIn', 0).steps.map(step => [step.to, step.fate])).toEqual([
      ['/a', 'inactive'],
      ['/b', 'notFor'],
      ['/c', 'notKnown'],
      ['//d', 'noPath'],
      ['/trade', 'leadsThere'],
      ['/f', 'tooLate'],
    ])
  })

  it.each([
    ['/', 'opens'],
    ['/trade', 'shut'],
    ['/trade?from=here#top', 'shut'],
    ['/nowhere', 'missing'],
    ['/loft/people', 'application'],
    ['/apply/role/stockist', 'application'],
    ['/sign-in', 'application'],
    ['/loftier', 'missing'],
  ] as const)('to %s finds what stands there: %s', (path, target) => {
    const rules = rulesOf([to(path)], [{ id: 'g', on: { page: 'trade' }, open: { nobody: true } }])
    expect(explainLanding(rules, person, 'signIn', 0).target).toBe(target)
  })

  it('to nothing at all is the front page', () => {
    expect(explainLanding(rulesOf([]), person, 'signIn', 0)).toMatchObject({ to: null, target: 'none', steps: [] })
  })
})
