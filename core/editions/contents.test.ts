import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { wexlowVersions } from '../../tests/support/wexlow-site'
import { siteIssues } from '../check/site-check'
import { validateRulebook } from '../check/validate'
import { entriesOf } from '../rulebook/rulebook'
import { belongings } from './belongings'
import { Contents, nameOf } from './contents'
import type { Version } from './contents'
import { liftedBy } from './lifted'

const frame = { timezone: 'Europe/Dublin', currency: 'EUR' }
const all: Version[] = [...entriesOf(wexlowRulebook).map((entry, i) => ({ ...entry, position: i })), ...wexlowVersions]
const mill = new Contents(all, frame)
const versionOf = (kind: Version['kind'], key: string) => mill.get(kind, key)!
const page = (key: string, body: object, position = 5000): Version => ({
  kind: 'page',
  key,
  position,
  body: { id: key, ...body },
})
const gate = (key: string, body: object): Version => ({ kind: 'gate', key, position: 900, body: { id: key, ...body } })

/** Some versions of the demo, changed, moved or taken out, and some that are new. */
const anyChanges = fc.array(
  fc.oneof(
    fc.constantFrom(...all).map(one => ({ ...one, body: null })),
    fc
      .tuple(fc.constantFrom(...all), fc.integer({ min: 0, max: 2000 }))
      .map(([one, position]) => ({ ...one, position })),
    fc.constantFrom(...all).map(one => ({ ...one, body: { ...(one.body as object), title: 'Changed' } })),
    fc.nat(50).map(n => page(`new-${n}`, { path: `/new-${n}`, title: 'New' }, n)),
  ),
  { maxLength: 12 },
)

describe('what an edition holds', () => {
  it('with changes put over it is what it would be read whole', () => {
    fc.assert(
      fc.property(fc.array(anyChanges, { maxLength: 4 }), rounds => {
        let put = mill
        const byName = new Map(all.map(one => [nameOf(one), one]))
        for (const changes of rounds) {
          void put.versions
          put = put.with(changes)
          for (const one of changes) byName.set(nameOf(one), one)
        }
        const whole = new Contents(byName.values(), frame)
        expect([put.book, put.site]).toEqual([whole.book, whole.site])
      }),
      { numRuns: 60 },
    )
  })

  it('shares what did not change: rules keep the site, things keep the rules', () => {
    const { index, book } = mill
    expect(mill.with([gate('new', { on: { page: 'visit' }, open: { everyone: true } })]).index).toBe(index)
    expect(mill.with([page('new', { path: '/new' })]).book).toBe(book)
    expect(mill.with([])).toBe(mill)
    // Another version that says the same of what rules see: its words are not in it.
    const rewritten = structuredClone(mill.get('page', 'visit')!)
    expect(mill.with([{ ...rewritten, position: rewritten.position }]).index).toBe(index)
    expect(mill.with([rewritten]).get('page', 'visit')).toBe(rewritten)
    expect(mill.with([{ ...rewritten, position: rewritten.position + 0.5 }]).index).not.toBe(index)
    expect(mill.with([{ ...rewritten, body: { ...(rewritten.body as object), title: 'B' } }]).index).not.toBe(index)
    expect(mill.with([{ ...rewritten, body: null }]).index).not.toBe(index)
  })

  it('of the demo holds together', () => {
    expect([validateRulebook(mill.book, mill.index), siteIssues(mill)]).toEqual([[], []])
  })

  it('tells names that lead nowhere, rings, and addresses held twice or by the application', () => {
    const wrong = mill.with([
      page('a', { path: '/a', parent: 'b' }),
      page('b', { path: '/b', parent: 'a' }),
      page('c', { path: '/visit', parent: 'nowhere' }),
      page('d', { path: '/loft' }),
      { kind: 'block', key: 'lost', position: 1, body: { id: 'lost', in: { post: 'nothing' } } },
    ])
    const found = siteIssues(wrong).map(one => `${one.kind} ${one.key} ${one.at} ${one.code}`)
    expect(found.sort()).toEqual([
      'block lost /in/post dangling-id',
      'page a /parent in-itself',
      'page b /parent in-itself',
      'page c /parent dangling-id',
      'page c /path address-taken',
      'page d /path own-address',
    ])
    // Looking only at what changed finds the same where the rest was right.
    const only = new Set(['page a', 'page b', 'page c', 'page d', 'block lost'])
    expect(siteIssues(wrong, only).length).toBe(found.length)
  })
})

describe('what belongs together', () => {
  const together = (changes: Version[], ...names: string[]) => [...belongings(changes, mill).together(names)].sort()
  const looms = page('looms', { path: '/looms' })
  const onLooms = gate('looms', { on: { page: 'looms' }, open: { level: { atLeast: 'patron' } } })
  const patron: Version = { kind: 'level', key: 'patron', position: 99, body: { id: 'patron', rank: 40 } }
  const words: Version = { kind: 'block', key: 'w', position: 1, body: { id: 'w', in: { page: 'looms' } } }

  it('is a thing, what is new in it, its gate, and what that names', () => {
    const changes = [looms, onLooms, patron, words]
    const everything = ['block w', 'gate looms', 'level patron', 'page looms']
    expect(together(changes, 'page looms')).toEqual(everything)
    expect(together(changes, 'block w')).toEqual(everything)
    expect(together(changes, 'gate looms')).toEqual(everything)
    expect(together(changes, 'level patron')).toEqual(['level patron'])
  })

  it('is a change of a page and its gate, but not the gate and the page, when both are live', () => {
    const visit = {
      ...versionOf('page', 'visit'),
      body: { ...(versionOf('page', 'visit').body as object), title: 'X' },
    }
    const closed = gate('visit', { on: { page: 'visit', below: true }, open: { signedIn: true } })
    expect(together([visit, closed], 'page visit')).toEqual(['gate visit', 'page visit'])
    expect(together([visit, closed], 'gate visit')).toEqual(['gate visit'])
  })

  it('is what goes, and whatever named it', () => {
    const gone = { ...versionOf('page', 'ferry'), body: null }
    const inside = { ...versionOf('block', 'ferry-times'), body: null }
    expect(together([gone, inside], 'page ferry')).toEqual(['block ferry-times', 'page ferry'])
    expect(together([gone, inside], 'block ferry-times')).toEqual(['block ferry-times'])
  })

  it('leaves an edition that holds together whatever is chosen of a draft that does', () => {
    const draft = [looms, onLooms, patron, words]
    fc.assert(
      fc.property(fc.subarray(draft.map(nameOf)), chosen => {
        const names = belongings(draft, mill).together(chosen)
        const next = mill.with(draft.filter(one => names.has(nameOf(one))))
        expect([validateRulebook(next.book, next.index), siteIssues(next)]).toEqual([[], []])
      }),
    )
  })
})

describe('moving a thing', () => {
  const moved = (key: string, body: object) => {
    const one = versionOf('page', key)
    return liftedBy(mill, [{ ...one, body: { ...(one.body as object), ...body } }], Date.parse('2026-11-24T10:00:00Z'))
  }

  it('lifts a gate where a tier comes to reach more by it, and not where it only shuts', () => {
    expect(moved('trade-prices', { parent: 'visit' })).toBe(true)
    expect(moved('ferry', { parent: 'trade' })).toBe(false)
    expect(moved('ferry', { title: 'The boat' })).toBe(false)
    expect(liftedBy(mill, [page('new', { path: '/new' })], 0)).toBe(false)
  })
})
