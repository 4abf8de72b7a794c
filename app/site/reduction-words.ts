import { moneyWords } from '~~/core/money'
import type { Reduction } from '~~/core/orders/reductions'
import { usePageView } from './page-view'
import { useSay } from './site-say'

/** Why something costs less, in the words of the site. */
export function useReductionWords(currency: string) {
  const say = useSay()
  const { locale } = usePageView().words
  return ({ is, percent = '', bonus, from, fromSum, code }: Reduction): string => {
    const off =
      is === 'percent'
        ? say('off.percent', { percent })
        : is === 'bonus'
          ? say('off.bonus', { buy: String(bonus!.buy), get: String(bonus!.get) })
          : say(is === 'sale' ? 'off.sale' : is === 'amount' ? 'off.amount' : 'off.price')
    const begins =
      from !== undefined
        ? say('off.from-pieces', { count: String(from) })
        : fromSum === undefined
          ? ''
          : say('off.from-sum', { sum: moneyWords(fromSum, currency, locale) })
    return [off, begins, code === undefined ? '' : say('off.code', { code })].filter(Boolean).join(' ')
  }
}
