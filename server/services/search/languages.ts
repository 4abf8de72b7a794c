/** How PostgreSQL reads words of a language: with the endings it knows, or as they are. */
import { baseOf } from '../../../core/site-words/site-words'

/** Text search configurations PostgreSQL brings (15, 12.6), by language (BCP 47). */
const configurations: Readonly<Record<string, string>> = {
  ar: 'arabic',
  ca: 'catalan',
  da: 'danish',
  de: 'german',
  el: 'greek',
  en: 'english',
  es: 'spanish',
  eu: 'basque',
  fi: 'finnish',
  fr: 'french',
  ga: 'irish',
  hi: 'hindi',
  hu: 'hungarian',
  hy: 'armenian',
  id: 'indonesian',
  it: 'italian',
  lt: 'lithuanian',
  ne: 'nepali',
  nl: 'dutch',
  no: 'norwegian',
  nb: 'norwegian',
  nn: 'norwegian',
  pt: 'portuguese',
  ro: 'romanian',
  ru: 'russian',
  sr: 'serbian',
  sv: 'swedish',
  ta: 'tamil',
  tr: 'turkish',
  yi: 'yiddish',
}

export const configurationFor = (locale = 'en'): string => configurations[baseOf(locale)] ?? 'simple'
