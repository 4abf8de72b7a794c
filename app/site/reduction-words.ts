import { moneyWords } from '~~/core/money'
import { reductionWords } from '~~/core/orders/reduction-words'
import type { Reduction } from '~~/core/orders/reductions'
import { usePageView } from './page-view'
import { useSay } from './site-say'

/** Why something costs less, in the words of the site. */
export function useReductionWords(currency: string) {
  const say = useSay()
  const { locale } = usePageView().words
  const money = (minor: number) => moneyWords(minor, currency, locale)
  return (reduction: Reduction): string => reductionWords(reduction, { say, money })
}
