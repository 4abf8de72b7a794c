import { describe, expect, it } from 'vitest'
import { lexiconOf } from '../sentences/lexicon'
import type { Rulebook } from '../rulebook/rulebook'
import { asPassage, passagesOf, renderText, restated, withElse, withWho, writtenPassages } from './passages'

const book: Rulebook = {
  bravik: 'rulebook/1',
  levels: [
    { id: 'maker', name: 'Maker', rank: 20 },
    { id: 'guild', name: 'Guild', rank: 30 },
  ],
}
const lexicon = lexiconOf(book, { timezone: 'UTC', currency: 'EUR' })
const of = (text: string) => passagesOf(text, lexicon, '2026-11-26')
const problems = (text: string) => of(text).problems.map(one => one.message)
const html = (text: string, admitted: boolean[] | null, reader: Record<string, string> = {}) =>
  renderText(text, { admitted, reader: what => reader[what] ?? null }).trim()
const maker = { level: { atLeast: 'maker' } }
const guild = { level: { atLeast: 'guild' } }

describe('a passage', () => {
  it('is read as the condition it says, in the order in which they begin', () => {
    const text =
      'For all. :for[Makers, and :for[the Guild]{who="Guild or above"}.]{who="Maker or above"}\n\n:::for{who="Guild or above"}\nMore.\n:::'
    expect(of(text)).toEqual({ conditions: [maker, guild, guild], problems: [] })
  })

  it('is sent to whom it is for, with its own marks; others get its other words or none, and no trace of it', () => {
    const text = 'Hold it. :for[The **swatch** is yours.]{who="Maker or above" else="Makers <keep> it."} Go on.'
    expect(html(text, [true])).toBe('<p>Hold it. The <strong>swatch</strong> is yours. Go on.</p>')
    expect(html(text, [false])).toBe('<p>Hold it. Makers &#x3C;keep> it. Go on.</p>')
    expect(html(':for[All of it.]{who="Guild or above"}', [false])).toBe('')
    const run = 'Before.\n\n:::for{who="Guild or above" else="For the Guild."}\n- one\n- two\n:::\n\nAfter.'
    expect(html(run, [false])).toBe('<p>Before.</p>\n<p>For the Guild.</p>\n<p>After.</p>')
    expect(html(run, [true])).toContain('<li>one</li>')
  })

  it('within one that is not sent is not sent either, whoever it is for', () => {
    const text = ':for[Makers :for[and Guild]{who="Guild or above"}]{who="Maker or above"} end'
    expect(html(text, [false, true])).toBe('<p> end</p>')
    expect(html(text, [true, false])).toBe('<p>Makers  end</p>')
  })

  it('is wrong, and at its place, where it has no end, no words, nobody it is for, or is nothing at all', () => {
    for (const [text, at, words] of [
      ['Read on. :for[the secret{who="Guild or above"} and more', 9, 'here are none'],
      ['One.\n\n:::for{who="Guild or above"}\nthe secret\n\nmore', 6, 'has no end'],
      [':for[the secret]', 0, 'says whom it is for'],
      [':for[the secret]{who=" "}', 0, 'says whom it is for'],
      [':for[the secret]{who="Gild or above"}', 0, 'not understood at “Gild”'],
      ['So :members[the secret]{only="yes"}', 3, '“members” is nothing'],
      ['::for{who="Guild or above"}', 0, 'here are none'],
      [':reader[password]', 0, 'a name, levels and a firm'],
    ] as const) {
      const found = of(text).problems
      expect([text, found[0]?.at, found.map(one => one.message).join(' ')]).toEqual([
        text,
        at,
        expect.stringContaining(words),
      ])
    }
  })

  it('that is wrong keeps the whole text from everybody, whatever is asked', () => {
    for (const text of [
      'a :for[the secret{who="Guild or above"}',
      'a\n\n:::for{who="Guild or above"}\nthe secret',
      'a :for[the secret]',
      'a :members[the secret]{x=1}',
    ])
      for (const admitted of [[], [true], [false], [true, true], null])
        expect([text, html(text, admitted)]).toEqual([text, ''])
    // Another count than there are passages is another text than the one that was read.
    expect(html(':for[the secret]{who="Guild or above"}', [])).toBe('')
  })

  it('leaves times, addresses and code alone', () => {
    expect(problems('At 10:30, or 7:pm. See https://a.example:80/b and `:for[x]`.')).toEqual([])
    expect(html('At 7:pm sharp', [])).toBe('<p>At 7:pm sharp</p>')
    expect(html('`:for[x]{who="y"}`', [])).toContain('<code>:for[x]{who="y"}</code>')
  })
})

describe('a passage that is written', () => {
  it('is made of words or paragraphs, and said anew, whatever the phrase holds', () => {
    const text = `Hold it. ${asPassage('The swatch', 'Maker or above')} Go on.`
    expect(of(text)).toEqual({ conditions: [maker], problems: [] })
    const [one] = writtenPassages(text)
    expect(one).toMatchObject({ words: 'The swatch', who: 'Maker or above' })
    expect(of(withWho(text, one!, 'Guild or above')).conditions).toEqual([guild])
    const odd = withWho(text, one!, 'query "a & b"')
    expect(writtenPassages(odd)[0]!.who).toBe('query "a & b"')
    const run = `Before.${asPassage('One.\n\nTwo.', 'Guild or above')}After.`
    expect(of(run)).toEqual({ conditions: [guild], problems: [] })
    expect(of(withWho(run, writtenPassages(run)[0]!, 'Maker or above')).conditions).toEqual([maker])
  })
})

describe('a passage whose names have changed', () => {
  it('is said by those they have now, and means what it meant', () => {
    const text = ':for[a :for[b]{who="Guild or above"}]{who="Maker or above"} c'
    const renamed = lexiconOf(
      { ...book, levels: book.levels!.map(one => (one.id === 'guild' ? { ...one, name: 'Long table' } : one)) },
      { timezone: 'UTC', currency: 'EUR' },
    )
    expect(passagesOf(text, renamed).problems).toHaveLength(1)
    const now = restated(text, [maker, guild], renamed)
    expect(passagesOf(now, renamed)).toEqual({ conditions: [maker, guild], problems: [] })
    expect(restated(text, [maker, guild], lexicon)).toBe(text)
    expect(restated(text, [maker], renamed)).toBe(text)
  })
})

describe('whoever writes a text', () => {
  it('sees what is for some, and what is kept of it, marked', () => {
    const text = 'a :for[b]{who="Maker or above"} :for[c]{who="Guild or above" else="d"}'
    const marked = renderText(text, { admitted: [true, false], reader: () => null, marked: true }).trim()
    expect(marked).toBe(
      '<p>a <mark class="passage" title="Maker or above">b</mark> <mark class="passage kept" title="Guild or above">d</mark></p>',
    )
  })
})

describe('the reader', () => {
  it('stands in a text by name, or by the words for whoever has none; escaped', () => {
    const text = 'Good evening, :reader[name]{else="friend"}.'
    expect(html(text, [], { name: 'Ana <b>' })).toBe('<p>Good evening, Ana &#x3C;b>.</p>')
    expect(html(text, [])).toBe('<p>Good evening, friend.</p>')
  })
})

describe('a text', () => {
  it('passes no HTML, no script and no link through that leads where links may not', () => {
    const bad = html(
      'So <script>x()</script> [a](javascript:x) ![b](data:x) [c](/visit) <a href="x" onclick="y">d</a>',
      [],
    )
    expect(bad).toContain('&#x3C;script>')
    expect(bad).toContain('<a href="/visit">c</a>')
    expect(bad).not.toMatch(/javascript:|data:|<script|<a [^>]*onclick/)
  })
})

describe('a text with more markup than anybody writes', () => {
  const rendering = { admitted: [], reader: () => null }

  it.each([
    ['lists in one another', '- '.repeat(10_000) + 'x'],
    ['quotations in one another', `${'>'.repeat(10_000)} x`],
    ['numbered lists', '1. '.repeat(9000) + 'x'],
    ['passages without an end', ':::for{who="everyone"}\n'.repeat(5000)],
    ['lists by indenting', Array.from({ length: 300 }, (_, i) => `${'  '.repeat(i)}- x`).join('\n')],
    ['very many links', '[a](/b) '.repeat(20_000)],
    ['very many passages', ':for[x]{who="everyone"} '.repeat(8000)],
    [
      'a table of very many cells',
      `${'|a'.repeat(500)}|\n${'|-'.repeat(500)}|\n${`${'|b'.repeat(500)}|\n`.repeat(150)}`,
    ],
    ['many lines, each deep', `${'>'.repeat(19)} x\n\n`.repeat(3000)],
    ['very many addresses', 'a@b.cd '.repeat(25_000)],
  ])('of %s is told so at its place, and shows nothing', (_, text) => {
    const { problems } = passagesOf(text, lexicon)
    expect(problems).toHaveLength(1)
    expect(problems[0]!.message).toMatch(/^(No more than 20|A text holds at most 5,000)/)
    expect(text.length).toBeGreaterThan(problems[0]!.at)
    expect(renderText(text, rendering)).toBe('')
  })

  it('is none that somebody writes: long, with lists, tables, links and passages', () => {
    const text = [
      'A long text, with a time of 7:30 and a [link](https://mill.example/a). '.repeat(400),
      '- one\n  - two\n    - three\n',
      `|a|b|\n|-|-|\n${'|1|2|\n'.repeat(200)}`,
      '> Said.\n>\n> > Said before.',
      '* * *',
      ':::for{who="everyone"}\nWords.\n:::\n'.repeat(30),
    ].join('\n\n')
    expect(passagesOf(text, lexicon).problems).toEqual([])
    expect(renderText(text, { ...rendering, admitted: Array(30).fill(true) })).toContain('Said before.')
  })

  it('read otherwise by others, where that is written beside it', () => {
    const words = (text: string) => writtenPassages(text).map(one => one.else)
    const put = (text: string, other: string, i = 0) => withElse(text, writtenPassages(text)[i]!, other)
    const line = 'Come in. :for[A swatch {of yours} \\] here.]{who="Maker or above"} Sit.'
    const other = put(line, 'Makers "keep"  a\n swatch & more.')
    expect(words(other)).toEqual(['Makers "keep" a swatch & more.'])
    expect(passagesOf(other, lexicon).problems).toEqual([])
    expect(put(other, 'No.')).toBe(put(line, 'No.'))
    expect(put(other, ' ')).toBe(line)
    const first = ':for[Yours]{else="not yours" who="Maker or above"}'
    expect(words(put(first, 'ours'))).toEqual(['ours'])
    expect(words(put(first, ''))).toEqual([''])
    expect(passagesOf(put(first, ''), lexicon).problems).toEqual([])
    const paragraphs =
      ':::for{who="Maker or above"}\nAll of it, else="no".\n\n:for[x]{who="Guild or above" else="y"}\n:::'
    expect(words(put(paragraphs, 'Some.'))).toEqual(['Some.', 'y'])
    expect(words(put(paragraphs, 'z', 1))).toEqual(['', 'z'])
    expect(renderText(put(paragraphs, 'Some.'), { admitted: [false, false], reader: () => null })).toContain('Some.')
  })
})
