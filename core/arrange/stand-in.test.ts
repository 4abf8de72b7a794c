import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arrangeAsk, arrangements, toldToArranger } from './arrangement'
import type { Arranged, ArrangeAsk } from './arrangement'
import { arrangeAlone } from './stand-in'

const ask = (given: Partial<ArrangeAsk>): ArrangeAsk => arrangeAsk.parse({ brief: '', ...given })
const made = (given: ArrangeAsk) => arrangements.parse(arrangeAlone(toldToArranger(given)))
const kindsOf = (parts: readonly Arranged[]): string => parts.map(one => one.kind).join(' ')

const boats = ask({
  brief: 'For islanders who come by boat. They read it on a phone. Then they go to Visit the mill.',
  title: 'Boats',
  texts: ['The morning boat leaves at eight. It takes wheels.\n\nThe evening boat waits for the tide.'],
  pages: [{ title: 'Visit the mill', path: '/visit' }],
})
const secret = 'The dye is madder and *alum*. Boil it twice.'
const gated = ask({
  brief: 'What dyers learn with us. Join us.',
  title: 'The red recipe',
  texts: [secret],
  teaser: true,
})

describe('arrangements from a brief', () => {
  it('are three, which differ in the kinds of part, their order and their words', () => {
    const all = made(boats)
    expect(new Set(all.map(one => kindsOf(one.parts))).size).toBe(3)
    expect(new Set(all.map(one => JSON.stringify(one.parts))).size).toBe(3)
    expect(all.map(one => kindsOf(one.parts))).toEqual(['text call', 'text panels call', 'picture call text'])
    expect(JSON.stringify(all[0])).toContain('The evening boat waits for the tide.')
    expect(JSON.stringify(all[1])).toContain('For islanders who come by boat.')
    expect(JSON.stringify(all[2])).not.toContain('It takes wheels')
    for (const one of all) expect(JSON.stringify(one)).toContain('"href":"/visit"')
  })

  it('are the same for the same ask', () => {
    expect(made(boats)).toEqual(made(structuredClone(boats)))
  })

  it('of a teaser quote nothing of what it stands for, or no more than is allowed', () => {
    const words = (quote: ArrangeAsk['quote']) => JSON.stringify(made({ ...gated, quote }))
    for (const word of ['madder', 'alum', 'Boil', 'red recipe']) expect(words('nothing')).not.toContain(word)
    expect(words('nothing')).toContain('What dyers learn with us')
    expect(words('heading')).toContain('The red recipe')
    expect(words('heading')).not.toContain('madder')
    expect(words('first sentence')).toContain('madder')
    expect(words('first sentence')).not.toContain('Boil')
  })

  it('of a teaser never quote a sentence that is a passage for some', () => {
    const some = { ...gated, texts: ['We use :guild[weld and :em[iron]]{for="Guild"} here. Then dry.'] }
    expect(JSON.stringify(made({ ...some, quote: 'first sentence' }))).not.toMatch(/weld|iron|Then dry/)
  })

  it('fit what parts can be, whatever is asked', () => {
    fc.assert(
      fc.property(
        fc.record({
          brief: fc.string({ maxLength: 300, unit: 'grapheme' }),
          title: fc.string({ maxLength: 200 }),
          texts: fc.array(fc.string({ maxLength: 800 }), { maxLength: 12 }),
          teaser: fc.boolean(),
          quote: fc.constantFrom('nothing', 'heading', 'first sentence' as const),
        }),
        given => {
          expect(made(ask(given as Partial<ArrangeAsk>))).toHaveLength(3)
        },
      ),
      { numRuns: 60 },
    )
  })
})
