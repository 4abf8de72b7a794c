import { typedMoney } from '~~/core/money'
import { useLoft } from '~/loft/core/loft'

/** Amounts of the site's currency, as they stand in figures. */
export function useMoney() {
  const loft = useLoft()
  const currency = computed(() => loft.site.currency ?? 'EUR')
  return { currency, money: (minor: number) => (minor < 0 ? '−' : '') + typedMoney(Math.abs(minor), currency.value) }
}
