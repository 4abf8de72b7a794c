import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyCondition, anyGates, anyLeaf, anyVisitor } from '../../tests/support/arbitrary-rules'
import { askAt, assembledAt, at, bookOf, guest, pia, siteOf } from '../../tests/support/page-at'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { validateRulebook } from '../check/validate'
import { assemble } from '../pages/assemble'
import { PagePlan } from '../pages/made-from/page-plan'
import type { Gate, Treatment } from '../rulebook/gate'
import { CompiledRules } from './compiled'
import { CompiledDecider } from './compiled-decider'
import { PlainDecider } from './plain-decider'
import { RuleSet } from './rule-set'

const world = wexlowCase()
const treatments: Treatment[] = [
  { absent: true },
  { teaser: true },
  { notice: { text: 'Not yours' } },
  { dimmed: true },
  { swap: { block: 'join-card' } },
  { redirect: { to: '/join' } },
  { redirect: { to: '/trade/prices' } },
]
const anyTreatment = fc.constantFrom(...treatments)
const anySettings = fc.record({
  masterKeys: fc.constant(['keeper'] as string[]),
  unknownAddress: fc.constant('asPage' as const),
  otherwise: fc.record({ any: anyTreatment, page: anyTreatment, post: anyTreatment }, { requiredKeys: [] }),
})
/** Gates that bear on a page and on an address beside it alike. */
const wide = fc.constantFrom<Gate['on']>(
  { everything: true },
  { kind: 'page' },
  { path: '/trade/**' },
  { path: '/**?preview=1' },
)
const anyWideGates = fc.array(
  fc.record(
    {
      id: fc.constant('wide'),
      on: wide,
      open: anyCondition(anyLeaf(world)),
      inherit: fc.boolean(),
      otherwise: fc.oneof(anyTreatment, fc.record({ guest: anyTreatment }), fc.record({ signedIn: anyTreatment })),
    },
    { requiredKeys: ['id', 'on', 'open'] },
  ),
  { maxLength: 4 },
)

describe('an address at which nothing stands', () => {
  it('answers in the compiled reading as in the plain one', () => {
    fc.assert(
      fc.property(anyGates(world), anySettings, anyVisitor, (gates, settings, visitor) => {
        const book = { ...world.book, gates, settings }
        fc.pre(validateRulebook(book, world.site).every(issue => issue.code === 'states-nothing'))
        const fast = new CompiledDecider(new CompiledRules(book, world.site), visitor, 0)
        const slow = new PlainDecider(new RuleSet(book, world.site), visitor, 0)
        for (const path of ['/no-such', '/trade/none', '/notes/none', '/orders'])
          expect(fast.atNowhere(path)).toEqual(slow.atNowhere(path))
      }),
      { numRuns: 300 },
    )
  })

  it('answers as a page beside it answers that nobody may open or find', () => {
    const hid: Gate = { id: 'hid', on: { page: 'trade-prices' }, open: { nobody: true } }
    fc.assert(
      fc.property(anyWideGates, anySettings, anyVisitor, (wider, settings, visitor) => {
        const gates = [...wider.map((gate, i) => ({ ...gate, id: `g${i}` })), hid] as Gate[]
        const slow = new PlainDecider(new RuleSet({ ...world.book, gates, settings }, world.site), visitor, 0)
        const verdict = slow.decide({ kind: 'page', id: 'trade-prices' })
        fc.pre(!verdict.open)
        expect(slow.atNowhere('/trade/none').value).toEqual(verdict.otherwise)
      }),
      { numRuns: 300 },
    )
  })

  it('is absent unless the site says otherwise', () => {
    const book = { ...world.book, gates: [], settings: { otherwise: { any: { teaser: true as const } } } }
    expect(new PlainDecider(new RuleSet(book, world.site), {}, 0).atNowhere('/no-such').value).toEqual({ absent: true })
  })
})

describe('what is sent for a hidden page and for a missing one', () => {
  const things = {
    pages: [
      { id: 'trade', title: 'Trade', path: '/trade', parent: 'home' },
      { id: 'home', title: 'Home', path: '/' },
      { id: 'join', title: 'Join', path: '/join' },
    ],
    blocks: [
      { id: 'instead', in: { frame: 'shelf' } },
      { id: 'on-pages', in: { frame: 'header', around: [{ kind: 'page' }] } },
      { id: 'not-trade', in: { frame: 'footer', not: [{ page: 'trade' }] } },
    ],
  }
  const content = Object.fromEntries(
    ['instead', 'on-pages', 'not-trade'].map(id => [`block:${id}`, { body: { markdown: id } }]),
  )
  const hidden = { on: { page: 'trade' }, open: { nobody: true } }
  const small = (any: Treatment, visitor = guest) => ({
    things,
    content: { ...content, 'page:trade': { summary: 'Of trade' } },
    visitor,
    gates: [hidden],
    book: { settings: { unknownAddress: 'asPage' as const, otherwise: { any } } },
  })
  const said: Treatment[] = [...treatments.slice(0, 4), { swap: { block: 'instead' } }, { redirect: { to: '/join' } }]

  it.each(said.flatMap(one => [guest, pia].map(visitor => [JSON.stringify(one), one, visitor] as const)))(
    'is the same under %s',
    async (_, treatment, visitor) => {
      const sent = async (path: string) => {
        const { view, redirect } = await assembledAt(path, small(treatment, visitor))
        const { words: _, ...told } = view
        const bytes = JSON.stringify({ view: { ...told, signIn: '', here: view.here && 'path' }, redirect })
        return bytes.replaceAll(encodeURIComponent(path), '')
      }
      const [there, missing] = [await sent('/trade'), await sent('/no-such')]
      expect(there).toBe(missing)
      expect(there).not.toMatch(/Trade|Of trade/)
    },
  )

  it('leads nowhere where it would lead back', async () => {
    const { view, redirect } = await assembledAt('/no-such', small({ redirect: { to: '/other' } }))
    // There is nothing at /other either, so that whoever is led there would be led there again.
    expect([view.status, redirect]).toEqual([404, undefined])
  })

  it('is told apart in a plan of pages where a guard waits for what stands behind the path', async () => {
    const edit = { on: { path: '/**?edit=1' }, open: { signedIn: true }, otherwise: { notice: { text: 'Sign in' } } }
    const { book } = small({ absent: true })
    const rules = new CompiledRules(bookOf([edit], book), siteOf(things))
    const askOf = (query: Record<string, string>) => {
      const decider = new CompiledDecider(rules, { ...guest, request: { query } }, at)
      return askAt('/no-such', { things, content, ask: { rules, decider } })
    }
    const plan = new PagePlan<number>(new Map(), 'nowhere')
    const asks: Record<string, string>[] = [{}, { edit: '1' }, {}]
    for (const query of asks) {
      const made = await assemble(askOf(query))
      expect([...made.facts]).toContain('query')
      plan.learn(askOf(query), made, made.view.status)
    }
    const later: Record<string, string>[] = [{}, { edit: '1' }, { edit: '2' }]
    expect(later.map(query => plan.find(askOf(query)))).toEqual([404, 401, 404])
  })
})
