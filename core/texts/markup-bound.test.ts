/** What is slow to read is told before it is read: by input, with the bound that holds it. */
import { describe, expect, it } from 'vitest'
import { readingOf } from './passages'
import { tooMuchMarkup } from './markup-bound'
import type { TooMuch } from './markup-bound'

const table: [string, (count: number) => string, number, TooMuch['what']][] = [
  ['headings underlined by =', n => 'a\n=\n'.repeat(n), 30_000, 'underlined'],
  ['headings underlined by -', n => 'a\n-\n'.repeat(n), 30_000, 'underlined'],
  ['one heading underlined often', n => `a\n${'=\n'.repeat(n)}`, 30_000, 'underlined'],
  ['brackets that close', n => ']'.repeat(n), 150_000, 'many'],
  ['pictures that close', n => '!]'.repeat(n), 75_000, 'many'],
  ['links that close', n => '](a)'.repeat(n), 40_000, 'many'],
  ['lines of one paragraph', n => 'a b\n'.repeat(n), 50_000, 'paragraph'],
  ['the same with carriage returns', n => 'a b\r'.repeat(n), 50_000, 'paragraph'],
  ['paragraphs', n => 'a\n\n'.repeat(n), 60_000, 'lines'],
  ['quotations that go on without their mark', n => '> a\na\n'.repeat(n), 30_000, 'many'],
  ['quotations in one another', n => '>'.repeat(n), 1000, 'deep'],
  ['lists in one another', n => '- '.repeat(n), 1000, 'deep'],
  ['passages in one another', n => ':::for\n'.repeat(n), 1000, 'deep'],
  ['emphasis', n => 'a_'.repeat(n), 90_000, 'many'],
  ['cells of a table', n => 'a|b\n'.repeat(n), 60_000, 'paragraph'],
]

describe('a text that holds more than anybody writes', () => {
  it.each(table)('is told so, and is not read: %s', (_, make, count, what) => {
    const text = make(count)
    expect(tooMuchMarkup(text)?.what).toBe(what)
    const [problem, ...more] = readingOf(text).problems
    expect([more, problem!.message.length > 20]).toEqual([[], true])
    expect(problem!.at).toBeLessThan(text.length)
  })

  it('is what nobody writes: a long page with lists, links, a table and headings is read', () => {
    const page = (i: number) =>
      `## Part ${i}\n\nWool is [washed](/wool) and *dried* in the wind.\nThen it is carded.\n\n- one\n- two\n\n| a | b |\n|---|---|\n| 1 | 2 |\n\n`
    const text = Array.from({ length: 150 }, (_, i) => page(i)).join('')
    expect(tooMuchMarkup(text)).toBeNull()
    expect(readingOf(text).problems).toEqual([])
  })
})
