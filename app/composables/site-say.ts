import { sayWord } from '~~/core/site-words/site-words'
import type { WordKey } from '~~/core/site-words/english'

/** Says a word of the site's own in the language of the page that is shown. */
export function useSay() {
  const view = usePageView()
  return (key: WordKey, facts?: Readonly<Record<string, string | number>>) => sayWord(view.words, key, facts)
}

/** A day in the words of the page. */
export function useSiteDay(timeZone: string) {
  const view = usePageView()
  return (iso: string) =>
    new Date(iso).toLocaleDateString(view.words.locale, { timeZone, day: 'numeric', month: 'long', year: 'numeric' })
}
