import { describe, expect, it } from 'vitest'
import { readingOf } from '../texts/passages'
import { lexiconOf } from '../sentences/lexicon'
import { bookOf, forMakers, siteOf } from '../../tests/support/page-at'
import { keptOfText, textOf, withText } from './text-of'

const part = { id: 'a', kind: 'text', body: { markdown: 'Madder', more: 1 } }

describe('the text of a thing', () => {
  it('is its words, or what is written of a part', () => {
    expect(textOf({ words: 'Wound' })).toBe('Wound')
    expect(textOf({ words: '' })).toBe('')
    expect(textOf(part)).toBe('Madder')
    for (const none of [
      {},
      { words: 3 },
      { ...part, kind: 'call' },
      { ...part, kind: 'none' },
      { kind: 'text' },
      { ...part, body: { markdown: 3 } },
    ])
      expect(textOf(none)).toBeUndefined()
  })

  it('is put in place of the old one, and leaves the rest as it is', () => {
    expect(withText({ id: 'b', words: 'Wound' }, 'Spun')).toEqual({ id: 'b', words: 'Spun' })
    expect(withText(part, 'Weld')).toEqual({ ...part, body: { markdown: 'Weld', more: 1 } })
    expect(part.body.markdown).toBe('Madder')
    expect(withText({ id: 'a', kind: 'call' }, 'x')).toEqual({ id: 'a', kind: 'call' })
  })

  it('says for whom its passages are, and that it cannot be read', () => {
    const lexicon = lexiconOf(bookOf(), siteOf())
    const passage = ':::for{who="Maker or above"}\nMadder\n:::'
    const kept = (text: string) => keptOfText({ words: text }, lexicon, '2026-11-24')
    expect(keptOfText({}, lexicon, '2026-11-24')).toEqual({})
    expect(kept('Plain')).toEqual({})
    expect(kept(passage)).toEqual({ passages: [forMakers] })
    expect(kept(':for[x]')).toEqual({ passages: [null], broken: true })
    expect(keptOfText({ words: passage }, lexicon, '2026-11-24', readingOf(passage))).toEqual(kept(passage))
  })
})
