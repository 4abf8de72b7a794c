/** Why something costs less, in the words of the site. */
import type { WordKey } from '../site-words/english'
import type { Reduction } from './reductions'

export type Say = (key: WordKey, facts?: Record<string, string>) => string

export function reductionWords(
  { is, percent = '', bonus, from, fromSum, code }: Reduction,
  { say, money }: { say: Say; money(minor: number): string },
): string {
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
        : say('off.from-sum', { sum: money(fromSum) })
  return [off, begins, code === undefined ? '' : say('off.code', { code })].filter(Boolean).join(' ')
}
