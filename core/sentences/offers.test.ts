import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { anyOffer } from '../../tests/support/arbitrary-offers'
import { wexlowCase } from '../../tests/support/wexlow-case'
import type { Offer } from '../rulebook/shop-rules'
import { SiteIndex } from '../site/site-index'
import { lexiconOf } from './lexicon'
import { nearestOffer } from './nearest-offer'
import { readOffer } from './read-offer'
import { sayOffer } from './say-offer'
import { suggestOffer } from './suggest-offer'

const world = wexlowCase('prices')
const titles: Record<string, string> = {
  yarn: 'Yarn',
  tools: 'Tools',
  kits: 'Kits',
  'heather-dk': 'Heather DK, 50 g',
  'mist-lace': 'Mist Lace',
  niddy: 'Niddy-noddy',
}
const titled = <T extends { id: string }>(list: readonly T[] | undefined) =>
  (list ?? []).map(one => ({ ...one, title: titles[one.id] ?? one.id }))
const site = { ...world.site, products: titled(world.site.products), categories: titled(world.site.categories) }
const lexicon = lexiconOf(world.book, new SiteIndex(site), {
  firms: [{ id: 'gullhaven', name: 'Gullhaven Knits' }],
  people: [{ id: 'p-cl', name: 'Clare Dunne' }],
})
const reading = (text: string) => readOffer(text, lexicon, '2026-06-10')
const read = (text: string) => {
  const found = reading(text)
  if (!found.ok) throw new Error(`${text}: at ${found.error.at}, expected ${found.error.expected}`)
  return found.read.offer
}
const stockists = { role: { anyOf: ['stockist'] } }
const guild = { level: { atLeast: 'guild' } }
const yarn = { categories: ['yarn'] }

describe('an offer said in one line', () => {
  it.each<[string, Omit<Offer, 'id'>]>([
    [
      'stockists 15 % off yarn from 10',
      { for: stockists, on: yarn, by: 'product', bands: [{ from: 10, off: { percent: '15' } }] },
    ],
    ['guild -5 on tools', { for: guild, on: { categories: ['tools'] }, bands: [{ off: { amount: 500 } }] }],
    [
      'classroom = 20.00 kits',
      { for: { role: { anyOf: ['classroom'] } }, on: { categories: ['kits'] }, bands: [{ off: { price: 2000 } }] },
    ],
    [
      '12,5% off everything for guests',
      { for: { signedIn: false }, on: { shop: true }, bands: [{ off: { percent: '12.5' } }] },
    ],
    [
      'yarn 5 off for guild or above and not stockists',
      { for: { all: [guild, { not: stockists }] }, on: yarn, bands: [{ off: { amount: 500 } }] },
    ],
    [
      'stockist yarn: 10-49 15 %, 50+ 20 %, off the regular price',
      {
        for: stockists,
        on: yarn,
        by: 'product',
        base: 'regular',
        bands: [
          { from: 10, to: 49, off: { percent: '15' } },
          { from: 50, off: { percent: '20' } },
        ],
      },
    ],
    [
      'stockists 20 % from 50, 15 % from 10 on yarn',
      {
        for: stockists,
        on: yarn,
        by: 'product',
        bands: [
          { from: 10, to: 49, off: { percent: '15' } },
          { from: 50, off: { percent: '20' } },
        ],
      },
    ],
    [
      'stockists 4 % on baskets from 180',
      { for: stockists, on: { shop: true }, by: 'spend', bands: [{ from: 18_000, off: { percent: '4' } }] },
    ],
    [
      '10 % off tools from 6 counted over yarn',
      { on: { categories: ['tools'] }, counts: yarn, by: 'category', bands: [{ from: 6, off: { percent: '10' } }] },
    ],
    [
      'buy 3 get 1 free on tools',
      { on: { categories: ['tools'] }, bands: [{ off: { percent: 100 } }], bonus: { buy: 3, get: 1 } },
    ],
    [
      'heather dk at 8.50 for gullhaven',
      { for: { firm: { in: ['gullhaven'] } }, on: { products: ['heather-dk'] }, bands: [{ off: { price: 850 } }] },
    ],
    [
      'Clare Dunne -10 % off the shop not on sale with code "wool 🐑"',
      {
        for: { person: { in: ['p-cl'] } },
        on: { shop: true },
        code: 'wool 🐑',
        base: 'unlessOnSale',
        bands: [{ off: { percent: '10' } }],
      },
    ],
    [
      'makers 5 % yarn counted over each colour from 3 on top of others',
      {
        for: { level: { atLeast: 'maker' } },
        on: yarn,
        by: 'variant',
        bands: [{ from: 3, off: { percent: '5' } }],
        combine: 'stack',
      },
    ],
    [
      'stockists 15 % off yarn from 1 Dec',
      { for: { all: [stockists, { date: { from: '2026-12-01' } }] }, on: yarn, bands: [{ off: { percent: '15' } }] },
    ],
    [
      'orders over 100 get 10 %',
      { on: { shop: true }, by: 'spend', bands: [{ from: 10_000, off: { percent: '10' } }] },
    ],
    [
      'stockists basket 10 % off from 100',
      { for: stockists, on: { shop: true }, by: 'spend', bands: [{ from: 10_000, off: { percent: '10' } }] },
    ],
    [
      '3 for 2 on tools',
      { on: { categories: ['tools'] }, bands: [{ off: { percent: 100 } }], bonus: { buy: 2, get: 1 } },
    ],
    ['three for two yarn', { on: yarn, bands: [{ off: { percent: 100 } }], bonus: { buy: 2, get: 1 } }],
    ['10 % off noddy', { on: { products: ['niddy'] }, bands: [{ off: { percent: '10' } }] }],
  ])('%s', (text, offer) => {
    expect(read(text)).toEqual(offer)
  })

  it('tells the nearest that it reads of what it does not', () => {
    const nearest = (text: string) => nearestOffer(text, lexicon, '2026-06-10')
    expect(nearest('wholesale basket 10 % off from 100')).toMatch(/^\w+s basket 10 % off from 100$/)
    expect(nearest('stokists 15 % off yarn')).toBe('Stockists 15 % off yarn')
    expect(nearest('stockists please 15 % off yran from 10')).toBe('stockists 15 % off Yarn from 10')
    expect(nearest('15 % off yarn')).toBeNull()
    expect(nearest('stockists on yarn')).toBeNull()
    expect(nearest('a b c d e f g h')).toBeNull()
    expect(nearest(`${'wool '.repeat(200)}10 %`)).toBeNull()
  })

  it('is suggested as it is typed: who, what, how much, what is still missing', () => {
    const texts = (text: string) => suggestOffer(text, text.length, lexicon).map(one => one.text)
    expect(texts('')).toContain('Stockists')
    expect(texts('sto')).toEqual(['Stockists'])
    expect(texts('stockists ')).toEqual(expect.arrayContaining(['15 % off', '-5', '= 20']))
    expect(texts('stockists 15')[0]).toBe('15 % off')
    expect(texts('stockists 15 % off ya')).toContain('Yarn')
    expect(texts('stockists 15 % off yarn ')).toEqual(expect.arrayContaining(['from 10', 'not on goods on sale']))
    expect(texts('stockists 15 % off yarn not')).toEqual(['not on goods on sale'])
    const [one] = suggestOffer('guild 5 % tool', 14, lexicon)
    expect(one).toEqual({ text: 'Tools', from: 10, to: 14 })
  })

  it('says what was not said and is taken for granted', () => {
    const found = reading('15 % off')
    expect(found.ok && found.read).toMatchObject({ assumed: ['for', 'on'], offer: { on: { shop: true } } })
  })

  it.each([
    ['stockists on yarn', /what comes off/],
    ['stockists 15 % off cheese', /who it is for/],
    ['15 % off yarn 20 % off yarn', /from how many/],
    ['150 % off yarn', /bad|100|value/i],
    ['= 20 on baskets', /price|basket/i],
    ['15 % from 0', /1 or later/],
    ['guild, stockists 15 % off yarn', /and/],
    ['15 % from 2.5 on yarn', /whole pieces/],
    ['-5.001 on tools', /digits/],
    ['15 % off yarn from 50 to 10', /end/i],
    ['', /what comes off/],
  ])('“%s” is not understood, with its place and what could stand there', (text, expected) => {
    const found = reading(text)
    expect(found.ok).toBe(false)
    if (!found.ok) expect(found.error.expected).toMatch(expected)
  })

  it('is what is said of it, read back', () => {
    const percent = (off: Offer['bands'][number]['off']) =>
      'percent' in off ? { percent: String(Number(off.percent)) } : off
    fc.assert(
      fc.property(anyOffer({ book: world.book, site }), offer => {
        const { active: _, order: __, by = 'each', counts, ...rest } = offer
        const countsUsed =
          counts && (by === 'category' || by === 'spend') && JSON.stringify(counts) !== JSON.stringify(rest.on)
        const whole: Omit<Offer, 'id'> = {
          ...rest,
          ...(by === 'each' ? {} : { by }),
          ...(countsUsed ? { counts } : {}),
          ...(rest.base === 'current' ? { base: undefined } : {}),
          bands: rest.bands.map(band => ({
            ...(by === 'each' ? {} : { from: band.from ?? 1, ...(band.to === undefined ? {} : { to: band.to }) }),
            off: percent(band.off),
          })),
          combine: rest.combine === 'stack' && by !== 'spend' ? 'stack' : undefined,
        }
        if (whole.for && 'everyone' in whole.for) delete whole.for
        expect({ ...read(sayOffer(whole, lexicon)) }, sayOffer(whole, lexicon)).toEqual(
          JSON.parse(JSON.stringify(whole)),
        )
      }),
      { numRuns: 400 },
    )
  })
})
