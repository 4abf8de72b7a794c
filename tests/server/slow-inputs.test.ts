/** What strangers to the machine send is read in time, whatever it is; a fuzzer looks for what nobody thought of. */
import { performance } from 'node:perf_hooks'
import { beforeAll, describe, expect, it } from 'vitest'
import { condition } from '../../core/conditions/condition'
import { lexiconOf } from '../../core/sentences/lexicon'
import type { Lexicon } from '../../core/sentences/lexicon'
import { read } from '../../core/sentences/read'
import { readOffer } from '../../core/sentences/read-offer'
import { deadlineMs, readBeside, readTextBeside, TookTooLong } from '../../server/reading/reading'
import { readYaml } from '../../server/reading/page-file'
import { wexlowSite } from '../support/wexlow-site'
import { wexlowRulebook } from '../../demo/wexlow/rulebook'
import { SiteIndex } from '../../core/site/site-index'

let lexicon: Lexicon
beforeAll(() => {
  lexicon = lexiconOf(wexlowRulebook, new SiteIndex(wexlowSite))
})

/** Milliseconds the fuzzer runs; a minute in `npm run faults`. */
const fuzzMs = process.env.BRAVIK_FAULTS ? 60_000 : 4000
/** Far longer than anything takes here; far shorter than what was found took. */
const mostMs = 8000

const refusals = {
  'keys of YAML': () => readYaml('a.yaml', Array.from({ length: 16_000 }, (_, i) => `k${i}: a`).join('\n')),
  'anchors of YAML': () => readYaml('a.yaml', Array.from({ length: 16_000 }, (_, i) => `k${i}: &a${i} x`).join('\n')),
  'parts of a condition': () =>
    condition.safeParse({ any: Array.from({ length: 20_000 }, () => ({ level: { atLeast: 'maker' } })) }),
  'alternatives of a phrase': () => read('Maker or '.repeat(3000) + 'Guild', lexicon),
  'brackets of a phrase': () => read('('.repeat(20_000), lexicon),
  '“not”s of a phrase': () => read('not '.repeat(900) + 'Maker', lexicon),
  'brackets of an offer': () => readOffer('for ' + '('.repeat(20_000), lexicon),
} as const

describe('what is slow by what is sent', () => {
  it.each(Object.entries(refusals))('is bounded: %s', (_, work) => {
    const start = performance.now()
    work()
    expect(performance.now() - start).toBeLessThan(mostMs)
  })

  it('is told where it stands', () => {
    expect(refusals['parts of a condition']().error?.issues[0]?.message).toContain('500')
    for (const name of ['alternatives of a phrase', 'brackets of a phrase', '“not”s of a phrase'] as const)
      expect(refusals[name]()).toMatchObject({ ok: false, error: { at: expect.any(Number) } })
    const twice = readYaml('a.yaml', 'a: 1\nb: 2\na: 3\n')
    expect(twice).toEqual({ issues: [{ file: 'a.yaml', line: 3, message: '“a” is said twice.' }] })
  })

  it('ends at a deadline, and the next is read all the same', { timeout: 60_000 }, async () => {
    // Nothing that is known is slow any more: the thread is kept busy by reading very much at once.
    const many = Array.from({ length: 6 }, () => readTextBeside('a\n\n'.repeat(3000)))
    const told = await Promise.all(many)
    expect(told.every(one => one !== 'too long')).toBe(true)
    await expect(readBeside('wait', deadlineMs * 4)).rejects.toBeInstanceOf(TookTooLong)
    expect(await readTextBeside(':for[you]{who="Maker"}')).toMatchObject({ passages: [{ who: 'Maker' }], problems: [] })
    expect(await readBeside('file', { file: 'menus/top.yaml', source: 'entries: []' })).toMatchObject({ menu: 'top' })
  })
})

/** Pieces texts, phrases and files are made of, put together and repeated in every way. */
const pieces = {
  text: [
    'a',
    ' ',
    '\n',
    '\n\n',
    '#',
    '=',
    '-',
    '*',
    '_',
    '`',
    '[',
    ']',
    '(',
    ')',
    '!',
    '<',
    '>',
    '|',
    ':',
    ':::',
    '{',
    '}',
    '\\',
    '&',
    '~',
    '1.',
    '\t',
    '"',
    "'",
    'www.',
    'http://a.b',
    'a@b.c',
    ':for[',
    ']{who="Maker"}',
    '  \n',
    '\r',
    '$',
    '^',
    '- [ ] ',
    '[a]: b\n',
    '<!--',
    '-->',
    '|-|\n',
  ],
  phrase: [
    'Maker',
    'or',
    'and',
    'not',
    '(',
    ')',
    ',',
    '"',
    '#',
    'guild',
    'from',
    '1 dec',
    'until',
    '2026-01-01',
    'all of',
    'any of',
    'holds',
    'bought',
    'in',
    '9:00',
    'on',
    'phone',
    '%',
    '-',
    '5',
    '€',
    'off',
    'each',
    'for',
  ],
  yaml: [
    'a',
    ':',
    ' ',
    '\n',
    '- ',
    '  ',
    '{',
    '}',
    '[',
    ']',
    ',',
    '"',
    "'",
    '|',
    '>',
    '&a',
    '*a',
    '!x',
    '#',
    '---\n',
    '? ',
    'k: v\n',
    '<<: ',
    '\t',
    '%',
  ],
} as const

function made(list: readonly string[], most: number): string {
  const any = () => list[Math.floor(Math.random() * list.length)]!
  const unit = Array.from({ length: 1 + Math.floor(Math.random() * 6) }, any).join('')
  const head = Array.from({ length: Math.floor(Math.random() * 3) }, any).join('')
  const count = Math.floor(most / unit.length)
  return head + unit.repeat(Math.max(1, Math.floor(count * Math.random() ** 2)))
}

describe('whatever is sent', () => {
  it('is read in time, or told to be too much', { timeout: fuzzMs + 30_000 }, async () => {
    const end = performance.now() + fuzzMs
    const slow: string[] = []
    const timed = async (what: string, input: string, mostMs: number, work: () => unknown) => {
      const start = performance.now()
      await work()
      const took = performance.now() - start
      if (took > mostMs)
        slow.push(`${what} ${took.toFixed(0)} ms: ${JSON.stringify(input.slice(0, 60))} × ${input.length}`)
    }
    /** What the deadline ends is told so; anything else that goes wrong is wrong. */
    const ended = (error: unknown) => {
      if (!(error instanceof TookTooLong)) throw error
    }
    while (performance.now() < end) {
      const text = made(pieces.text, 200_000)
      await timed('text', text, deadlineMs + mostMs, () => readTextBeside(text))
      const phrase = made(
        pieces.phrase.map(one => `${one} `),
        8000,
      )
      await timed('phrase', phrase, mostMs, () => read(phrase, lexicon, '2026-11-30'))
      await timed('offer', phrase, mostMs, () => readOffer(phrase, lexicon, '2026-11-30'))
      const yaml = made(pieces.yaml, 60_000)
      await timed('YAML', yaml, deadlineMs + mostMs, () =>
        readBeside('file', { file: 'menus/a.yaml', source: yaml }).catch(ended),
      )
      const parts = Math.floor(Math.random() ** 2 * 5000)
      const nested = Array.from({ length: Math.floor(Math.random() * 80) }).reduce<object>(inner => ({ not: inner }), {
        all: Array.from({ length: parts }, () => ({ signedIn: true })),
      })
      await timed('condition', JSON.stringify(nested), mostMs, () => condition.safeParse(nested))
    }
    expect(slow).toEqual([])
  })
})
