/**
 * What the public pages say of themselves: the words that come with a language, with what the operator says in their
 * stead. Kept apart from what is written on the site, and in no edition: words carry no right.
 */
import { english } from './english'
import type { WordKey, Words } from './english'
import { languages } from './languages'

/** A text for everybody, or apart for guests and for people signed in. */
export type Said = string | { guest?: string | undefined; member?: string | undefined }
export interface WordsSettings {
  /** Languages beside the site's own, as BCP 47 tags. */
  offered: readonly string[]
  /** Where the address names no language, the browser's own is taken; otherwise the site's. */
  byBrowser: boolean
  /** By language and key: what stands in place of the words that come with it. */
  said: Readonly<Record<string, Readonly<Partial<Record<WordKey, Said>>>>>
}

/** Words of one language for one sign-in state. */
export interface SiteWords {
  /** Equal where the texts are. */
  id: string
  lang: string
  /** For dates and amounts. */
  locale: string
  texts: Words
}

export const wordKeys = Object.keys(english) as WordKey[]
export const isWordKey = (key: string): key is WordKey => Object.hasOwn(english, key)

/** Words that may be said otherwise to whoever is signed in: what people read who do not get something. */
const bySignIn =
  /^(page\.(nothing|nothing-text|for-members)|goods\.(untold|untold-short|not-sold|not-sold-short)|part\.(listed|locked|dimmed|rest|read-more)|way\.)/
export const differsBySignIn = (key: WordKey): boolean => bySignIn.test(key)

const placeholder = /\{([a-z-]+)\}/g
/** What may be put into a text, by name. */
export const placesIn = (text: string): string[] => [...text.matchAll(placeholder)].map(one => one[1]!)

/** The longest text of a word, in characters. */
const mostOfWord = 400
const tag = /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/
export const isLanguageTag = (text: string): boolean => tag.test(text)

/** What is wrong with a text in place of a word, as a sentence; null for nothing. */
export function wordProblem(key: WordKey, text: string): string | null {
  if (!text.trim()) return 'Some words are needed, or none to have the usual ones.'
  if (text.length > mostOfWord) return `At most ${mostOfWord} characters.`
  const known = placesIn(english[key])
  const strange = placesIn(text).find(one => !known.includes(one))
  if (strange)
    return `Nothing is known to put in place of {${strange}}${known.length ? `: there is ${known.map(one => `{${one}}`).join(', ')}` : ''}.`
  if (known.includes('link') && !placesIn(text).includes('link')) return 'The link has its place in it: {link}.'
  return null
}

/** The part of a tag that names the language alone. */
export const baseOf = (language: string) => language.split('-')[0]!.toLowerCase()

/** The one of these that fits a wish: the same, or the same language in another country. */
function fitting(wish: string | undefined, offered: readonly string[]): string | undefined {
  if (!wish) return undefined
  const lower = wish.toLowerCase()
  return offered.find(one => one.toLowerCase() === lower) ?? offered.find(one => baseOf(one) === baseOf(wish))
}

export interface LanguageAsk {
  /** Of the site itself. */
  locale: string
  /** Named by the address: its parameter `lang`, or else the language of the page at it. */
  named: readonly (string | undefined)[]
  /** Of those offered the one the browser likes best; asked only where it counts. */
  spoken(offered: readonly string[]): string | undefined
}

/** The first that is offered: what the address names, what the browser likes best, the site's own. */
export function languageFor(settings: WordsSettings, { locale, named, spoken }: LanguageAsk): string {
  const all = [locale, ...settings.offered]
  if (all.length === 1) return locale
  for (const wish of named) {
    const found = fitting(wish, all)
    if (found) return found
  }
  return (settings.byBrowser && fitting(spoken(all), all)) || locale
}

const made = new WeakMap<WordsSettings, Map<string, SiteWords>>()
const usual: WordsSettings = { offered: [], byBrowser: true, said: {} }

/** The words in a language. `signedIn` is asked only where the operator says something apart to them. */
export function siteWords(settings: WordsSettings = usual, language: string, signedIn: () => boolean): SiteWords {
  const said = sayings(settings, language)
  const apart = said.some(([, one]) => typeof one !== 'string')
  const state = apart ? (signedIn() ? 'member' : 'guest') : 'all'
  const known = made.get(settings) ?? new Map<string, SiteWords>()
  made.set(settings, known)
  const name = `${language} ${state}`
  let words = known.get(name)
  if (!words) known.set(name, (words = wordsOf(language, said, state)))
  return words
}

/** What is said in place of the usual words; a word nobody knows any more says nothing. */
const sayings = ({ said }: WordsSettings, language: string) =>
  Object.entries({ ...said[baseOf(language)], ...said[language] }).filter(([key]) => isWordKey(key)) as [
    WordKey,
    Said,
  ][]

function wordsOf(language: string, said: [WordKey, Said][], state: 'all' | 'guest' | 'member'): SiteWords {
  const texts: Words = { ...english, ...languages[baseOf(language)] }
  const other: [WordKey, string][] = []
  for (const [key, one] of said) {
    const text = typeof one === 'string' ? one : state === 'all' ? undefined : one[state]
    if (text !== undefined) other.push([key, (texts[key] = text)])
  }
  const id = other.length ? `${language} ${JSON.stringify(other)}` : language
  return { id, lang: language, locale: language, texts }
}

/** A word with what stands in its places. */
export function sayWord(words: SiteWords, key: WordKey, facts: Readonly<Record<string, string | number>> = {}): string {
  return words.texts[key].replace(placeholder, (whole, name: string) =>
    Object.hasOwn(facts, name) ? String(facts[name]) : whole,
  )
}

/** A word that is said later, in the language of whoever reads it. */
export interface Word {
  word: WordKey
  facts?: Readonly<Record<string, string | number>>
}
export const word = (key: WordKey, facts?: Word['facts']): Word => ({ word: key, ...(facts ? { facts } : {}) })

/** The pieces of a word: texts, and names of what goes between. */
export function piecesOf(text: string): { text: string; place?: string }[] {
  return text
    .split(/(\{[a-z-]+\})/)
    .filter(Boolean)
    .map(one => (one.startsWith('{') && one.endsWith('}') ? { text: one, place: one.slice(1, -1) } : { text: one }))
}

export const englishWords: SiteWords = siteWords(usual, 'en', () => false)
