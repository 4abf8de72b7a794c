import type { WordKey } from '~~/core/site-words/english'
import { sayWord } from '~~/core/site-words/site-words'
import { usePageView } from './page-view'

/** Says a word of the site's own in the language of the page that is shown. */
export function useSay() {
  const view = usePageView()
  return (key: WordKey, facts?: Readonly<Record<string, string | number>>) => sayWord(view.words, key, facts)
}

/** The page that is shown, and its words. */
export const usePage = () => ({ view: usePageView(), say: useSay() })

const dayParts = { day: 'numeric', month: 'long', year: 'numeric' } as const

/** A day in the words of the page. */
export function useSiteDay(timeZone: string) {
  const view = usePageView()
  return (iso: string) => new Date(iso).toLocaleDateString(view.words.locale, { timeZone, ...dayParts })
}

/** The same with the time of day. */
export function useSiteTime(timeZone: string) {
  const view = usePageView()
  return (iso: string) =>
    new Date(iso).toLocaleString(view.words.locale, { timeZone, ...dayParts, hour: '2-digit', minute: '2-digit' })
}
