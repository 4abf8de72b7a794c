/** Says on the wire what went wrong: problem+json to programs, a page to readers; never the insides of an error. */
import Negotiator from 'negotiator'
import { setResponseHeader, setResponseStatus } from 'h3'
import type { H3Event } from 'h3'
import { isForPrograms } from '../core/site/own-addresses'
import { baseOf, sayWord } from '../core/site-words/site-words'
import { wordOf } from './own-pages/own-words'
import type { OwnProblem } from './own-pages/own-words'
import { plainPage } from './plain-page'
import { spokenWords } from './spoken-words'
import type { Problem } from './problem'

export interface Told {
  status: number
  title: string
  body: Record<string, unknown>
  /** What it is called on the site, where it has a word there. */ word?: OwnProblem
}

export const toldProblem = (problem: Problem): Told => ({
  status: problem.statusCode,
  title: problem.title,
  body: problem.body(),
  word: wordOf(problem),
})

/** Seconds after which asking again is worth it. */
const retryAfterSeconds = 2

/** Whoever says nothing about what they take gets JSON where programs ask, and a page everywhere else. */
export function wantsPage(path: string, accept = '*/*'): boolean {
  if (path.startsWith('/api/')) return false
  const told = ['application/problem+json', 'application/json']
  const offered = isForPrograms(path) ? [...told, 'text/html'] : ['text/html', ...told]
  return new Negotiator({ headers: { accept } }).mediaType(offered) === 'text/html'
}

export function answerProblem(event: H3Event, { status, title, body, word }: Told): string {
  setResponseStatus(event, status)
  setResponseHeader(event, 'cache-control', 'private, no-store')
  if (status === 503) setResponseHeader(event, 'retry-after', retryAfterSeconds)
  if (wantsPage(event.node.req.url?.split('?')[0] ?? '', event.node.req.headers.accept)) {
    setResponseHeader(event, 'content-type', 'text/html;charset=utf-8')
    const words = spokenWords(event)
    const told = { lang: words.lang, front: sayWord(words, 'page.front') }
    if (baseOf(words.lang) === 'en' || typeof word !== 'object')
      return plainPage(title, typeof body.detail === 'string' ? body.detail : '', told)
    return plainPage(sayWord(words, word.word, word.facts), '', told)
  }
  setResponseHeader(event, 'content-type', 'application/problem+json')
  return JSON.stringify(body)
}
