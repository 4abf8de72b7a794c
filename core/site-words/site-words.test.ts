import { describe, expect, it } from 'vitest'
import { english } from './english'
import { languages } from './languages'
import {
  differsBySignIn,
  englishWords,
  languageFor,
  placesIn,
  sayWord,
  siteWords,
  wordKeys,
  wordProblem,
} from './site-words'
import type { WordsSettings } from './site-words'

const settings = (part: Partial<WordsSettings> = {}): WordsSettings => ({
  offered: [],
  byBrowser: true,
  said: {},
  ...part,
})
const spoken = (language?: string) => () => language

describe('the words of the public pages', () => {
  it.each(Object.keys(languages))('are all there in %s, with the same places in them', language => {
    for (const key of wordKeys)
      expect([key, placesIn(languages[language]![key]).sort()]).toEqual([key, placesIn(english[key]).sort()])
  })

  it('are said with what belongs in their places', () => {
    expect(sayWord(englishWords, 'way.level', { name: 'Guild', price: '€4 a month' })).toBe('as Guild, €4 a month')
    expect(sayWord(englishWords, 'home.become', { name: '{name} {x}' })).toBe('Become {name} {x}')
  })

  it('take what the operator says, for everybody or by sign-in, and nothing that is not known', () => {
    const own = settings({
      said: { en: { 'page.nothing': { guest: 'Lost?' }, 'part.listed': 'Guild only', x: 'y' } as object },
    })
    expect(siteWords(own, 'en', () => false).texts['page.nothing']).toBe('Lost?')
    expect(siteWords(own, 'en', () => true).texts['page.nothing']).toBe('Nothing here')
    expect(siteWords(own, 'en', () => true).texts['part.listed']).toBe('Guild only')
    expect(siteWords(own, 'en', () => true).id).not.toBe(siteWords(own, 'en', () => false).id)
    expect(siteWords(own, 'de', () => true).texts['part.listed']).toBe('für Mitglieder')
  })

  it('do not ask who is signed in where it makes no difference', () => {
    let asked = 0
    siteWords(settings({ said: { en: { 'part.listed': 'Guild only' } } }), 'en', () => Boolean(++asked))
    expect(asked).toBe(0)
  })

  it('have words of a language that only an operator brought, and English for the rest', () => {
    const own = settings({ said: { cy: { 'part.sign-in': 'Mewngofnodi' } } })
    expect(siteWords(own, 'cy', () => false).texts['part.sign-in']).toBe('Mewngofnodi')
    expect(siteWords(own, 'cy', () => false).texts['part.sign-out']).toBe('Sign out')
  })

  it.each([
    ['page.nothing', ' ', /some words/i],
    ['page.nothing', 'x'.repeat(401), /at most 400/i],
    ['home.become', 'Be {nmae}', /\{nmae\}: there is \{name\}/],
    ['page.nothing', 'No {name}', /\{name\}\./],
    ['part.rest-guest', 'Sign in', /\{link\}/],
  ] as const)('a text that does not fit %s is told why', (key, text, why) => {
    expect(wordProblem(key, text)).toMatch(why)
  })
  it('a text that fits is taken', () => {
    expect(wordProblem('home.become', 'Join as {name}')).toBeNull()
    expect(differsBySignIn('page.nothing')).toBe(true)
    expect(differsBySignIn('enter.password')).toBe(false)
  })

  it('are in the language the address names, then the browser’s, then the site’s', () => {
    const own = settings({ offered: ['de'] })
    const ask = { locale: 'en-IE', named: [undefined], spoken: spoken('de-AT') }
    expect(languageFor(own, { ...ask, named: ['en'] })).toBe('en-IE')
    expect(languageFor(own, ask)).toBe('de')
    expect(languageFor(own, { ...ask, named: ['fr', 'de-CH'], spoken: spoken('en') })).toBe('de')
    expect(languageFor({ ...own, byBrowser: false }, ask)).toBe('en-IE')
    expect(languageFor(own, { ...ask, spoken: spoken('fr') })).toBe('en-IE')
    expect(languageFor(settings(), { ...ask, named: ['de'] })).toBe('en-IE')
  })
})
