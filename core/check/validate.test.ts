import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { wexlowCase } from '../../tests/support/wexlow-case'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { issueCodes } from '../errors'
import { entriesOf, rulebookOf } from '../rulebook/rulebook'
import { validateRulebook } from './validate'

const { site, book } = wexlowCase()
const places = (document: unknown) => validateRulebook(document, site).map(issue => `${issue.at} ${issue.code}`)
const gate = (open: unknown, on: unknown = { page: 'home' }) => ({ ...book, gates: [{ id: 'g', on, open }] })

describe('validation', () => {
  it('never throws, whatever it is given, and always names a place', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.jsonValue(), (anything, inside) => {
        for (const document of [
          anything,
          { ...book, gates: anything },
          gate(anything),
          gate({ all: [inside, anything] }),
          { ...book, tax: anything, tiers: inside },
          { ...book, settings: { otherwise: { page: anything } } },
          { ...book, offers: [anything] },
        ]) {
          for (const issue of validateRulebook(document, site)) {
            expect(issue.at).toMatch(/^(\/.*)?$/)
            expect(issueCodes).toHaveProperty(issue.code)
          }
        }
      }),
      { numRuns: 400 },
    )
  })

  it.each([
    [{ level: { atLeast: 'maker', atMost: 'guild' } }, ['/gates/0/open/level one-key']],
    [{ date: {} }, ['/gates/0/open/date one-key']],
    [{ date: { from: '2026-05-02', until: '2026-05-01' } }, ['/gates/0/open/date/until ends-before-start']],
    [{ fact: { name: 'hall', atLeast: 'north' } }, ['/gates/0/open/fact/atLeast wrong-type']],
    [{ fact: { name: 'spindles', is: 'many' } }, ['/gates/0/open/fact/is wrong-type']],
    [{ opens: { page: 'home', post: 'shearing' } }, ['/gates/0/open/opens one-key']],
    [{ opens: { record: 'loom-1' } }, ['/gates/0/open/opens/record unknown-key']],
    [{ address: { in: ['10/8', '::ffff:192.0.2.0/120'] } }, ['/gates/0/open/address/in/0 bad-value']],
    ['everyone', ['/gates/0/open bad-value']],
    [{ everyone: false }, ['/gates/0/open/everyone bad-value']],
    [JSON.parse('{"not":'.repeat(70) + '{"everyone":true}' + '}'.repeat(70)), ['/gates/0/open bad-value']],
  ])('finds what is wrong in %j', (open, expected) => {
    expect(places(gate(open))).toEqual(expected)
  })

  it('finds rings through what a thing stands in, and none through rights that make none', () => {
    expect(places(gate({ opens: { page: 'home' } }))).toEqual(['/gates/0/open opens-ring'])
    expect(
      places({ ...book, gates: [{ id: 'g', on: { everything: true }, open: { opens: { route: 'GET /orders' } } }] }),
    ).toEqual(['/gates/0/open opens-ring'])
    expect(
      places({ ...book, gates: [{ id: 'g', on: { page: 'trade' }, take: { opens: { page: 'trade' } } }] }),
    ).toEqual([])
  })

  it('finds the same when it knows some entries to be right already', () => {
    const bad = fc.constantFrom<unknown>(
      { everyone: true },
      { level: {} },
      { nowhere: 1 },
      { level: { in: ['ghost'] } },
    )
    fc.assert(
      fc.property(fc.array(fc.array(bad, { maxLength: 4 }), { minLength: 2, maxLength: 5 }), rounds => {
        const sound = new WeakSet<object>()
        const kept = book.gates ?? []
        for (const opens of rounds) {
          const made = opens.map((open, i) => ({ id: `made-${i}`, on: { page: 'home' }, open }))
          const document = { ...book, gates: [...kept, ...made] }
          expect(validateRulebook(document, site, sound)).toEqual(validateRulebook(document, site))
        }
      }),
      { numRuns: 60 },
    )
  })

  it('takes a document apart into entries and puts it together again', () => {
    const sorted = (value: unknown) => JSON.parse(JSON.stringify(value)) as Record<string, unknown>
    expect(sorted(rulebookOf(entriesOf(wexlowRulebook)))).toEqual(sorted(wexlowRulebook))
  })
})
