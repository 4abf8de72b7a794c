/** The words of the site in the language a browser asks for, for what is no page of the site. */
import Negotiator from 'negotiator'
import type { H3Event } from 'h3'
import { englishWords, languageFor, siteWords } from '../core/site-words/site-words'
import type { SiteWords } from '../core/site-words/site-words'
import { lastSnapshot } from './services/live/snapshot'

/** As they were last read; English before that, and in whatever case they cannot be told. */
export function spokenWords(event: H3Event): SiteWords {
  const last = lastSnapshot()
  if (!last) return englishWords
  const { words } = last.settings
  const language = languageFor(words, {
    locale: last.rules.index.site.locale ?? 'en',
    named: [],
    spoken: offered => new Negotiator(event.node.req).language([...offered]),
  })
  return siteWords(words, language, () => false)
}
