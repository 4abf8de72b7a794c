import { sayWord } from '~~/core/site-words/site-words'
import type { OwnView } from '~~/server/own-pages/own-page'
import type { OwnProblem } from '~~/server/own-pages/own-words'
import { shownOwn, usePageView } from './page-view'
import { useSay } from './site-say'

type Shown<D extends object> = Omit<OwnView<D>, 'problems' | 'failed'> & { problems: Record<string, string> }

/** What the server put together for a page of the application's own, in the words of the page. Rendered on the server only. */
export function useOwn<D extends object>(): Shown<D> & { say: ReturnType<typeof useSay> } {
  const own = (inject(shownOwn, undefined) ?? useRequestEvent()?.context.own) as OwnView<D> | undefined
  if (!own) throw createError({ statusCode: 404, statusMessage: 'There is nothing here' })
  const said = useSaidProblem()
  const problems = Object.fromEntries(Object.entries(own.problems).map(([at, one]) => [at, said(one)]))
  return { ...own, problems, say: useSay() }
}

/** Says what is wrong in the words of the page. */
export function useSaidProblem() {
  const { words } = usePageView()
  return (one: OwnProblem) => (typeof one === 'string' ? one : sayWord(words, one.word, one.facts))
}
