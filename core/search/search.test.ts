import { describe, expect, it } from 'vitest'
import { textPieces } from '../texts/text-pieces'
import { readAsked } from './asked'
import { fragmentsOf, longestPiece } from './fragments'

const guild = { level: { atLeast: 'guild' } }
const signedIn = { signedIn: true }
const text =
  'Keep the vat **warm**. :for[The recipe is :for[forty grams]{who="signed in"}.]{who="Guild or above" else="Ask."}\n\n| a | b |\n|---|---|\n| left | right |'

describe('the pieces of a text', () => {
  it('keep what is for some apart from what is for all', () => {
    expect(textPieces(text)).toEqual([
      { within: [], words: 'Keep the vat warm.\na\nb\nleft\nright' },
      { within: [0], words: 'The recipe is .' },
      { within: [0, 1], words: 'forty grams' },
    ])
  })
  it('are none where a passage has no end, and leave the reader out', () => {
    expect(textPieces(':::for{who="Guild"}\nOpen')).toEqual([])
    expect(textPieces('Hello :reader[name]{else="friend"}, come in')).toEqual([
      { within: [], words: 'Hello , come in' },
    ])
  })
})

describe('what a thing is found by', () => {
  it('is its title for whoever may find it, and its words for whoever they open to', () => {
    const post = { title: 'Madder', summary: 'Red', words: text, passages: [guild, signedIn] }
    expect(fragmentsOf('post', post)).toMatchObject([
      { need: 'search', within: [], title: 'Madder', words: 'Red' },
      { need: 'open', within: [] },
      { need: 'open', within: [guild], words: 'The recipe is .' },
      { need: 'open', within: [guild, signedIn], words: 'forty grams' },
    ])
    expect(fragmentsOf('post', { ...post, passages: [null, signedIn] })).toHaveLength(2)
    expect(fragmentsOf('post', { ...post, broken: true })).toHaveLength(1)
  })
  it('is of a part of a page only what stands in it, and of a file only for whoever takes it', () => {
    const drawn = { kind: 'picture', title: '', summary: 'unsaid', body: { alt: 'A map', caption: 'Dry' } }
    expect(fragmentsOf('block', drawn)).toEqual([{ need: 'open', within: [], title: '', words: 'A map\nDry' }])
    // What shows itself to some alone is not found by its words.
    expect(fragmentsOf('block', { kind: 'call', title: 'Come', body: { label: 'Go', href: '/trade' } })).toEqual([])
    const long = fragmentsOf('download', { title: 'Charts' }, 'ladder and rope '.repeat(6000))
    expect(long.slice(1).map(one => one.need)).toEqual(['take', 'take', 'take'])
    expect(Math.max(...long.map(one => one.words.length))).toBeLessThanOrEqual(longestPiece)
  })
})

describe('what is asked for', () => {
  it('is read from whatever is typed', () => {
    expect(readAsked('harbour -cowl "row thirty" 31')).toEqual({
      words: ['harbour', '31'],
      phrases: [['row', 'thirty']],
      without: ['cowl'],
      goesOn: true,
    })
    expect(readAsked('madder ')).toMatchObject({ words: ['madder'], goesOn: false })
    expect(readAsked('& | ! () <-> :* \\')).toBeNull()
    expect(readAsked(`${'(((&|!"'.repeat(1500)}`)).toBeNull()
  })
})
