/** Amounts are whole numbers of a currency's minor unit (ISO 4217); these turn them into words and back. */

const digits = new Map<string, number>()
/** Digits of the minor unit: 2 for EUR, 0 for JPY. */
export function minorDigits(currency: string): number {
  let known = digits.get(currency)
  if (known === undefined) {
    const options = new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions()
    digits.set(currency, (known = options.maximumFractionDigits ?? 2))
  }
  return known
}

/** As people of a locale read it; default English. */
export const moneyWords = (minor: number, currency: string, locale = 'en'): string =>
  new Intl.NumberFormat(locale, { style: 'currency', currency }).format(minor / 10 ** minorDigits(currency))

/** As it stands in a field, such as `6.00`. */
export const typedMoney = (minor: number, currency: string): string =>
  (minor / 10 ** minorDigits(currency)).toFixed(minorDigits(currency))

/** What was typed, with point or comma; null where it is no amount, is below nothing, or has more digits than the currency. */
export function readMoney(text: string, currency: string): number | null {
  const amount = text.trim() === '' ? Number.NaN : Number(text.replace(',', '.')) * 10 ** minorDigits(currency)
  return Number.isFinite(amount) && amount >= 0 && Math.abs(amount - Math.round(amount)) < 1e-6
    ? Math.round(amount)
    : null
}
