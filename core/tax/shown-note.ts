/** Words after a price, with the price in them where they hold it. */
import { moneyWords } from '../money'

export const shownNote = (
  note: string,
  { withoutTax, withTax }: { withoutTax: number; withTax: number },
  { currency, locale }: { currency: string; locale?: string | undefined },
): string =>
  note.replace(/\{(net|gross)\}/g, (_, which) => moneyWords(which === 'net' ? withoutTax : withTax, currency, locale))
