import { computed, ref } from 'vue'
import type { BasketLine } from '~~/core/shop/price-trail'
import type { Address } from '~~/core/site/place'
import { useLoft } from '~/loft/core/loft'
import { addressText, basketText, readAddressText, readBasket } from './receipt-basket'

/** A basket and where it is sent, that a board of the shop is looked at for: as lists, and as they are typed. */
export function useBasketLookedAt() {
  const loft = useLoft()
  const lines = ref<BasketLine[]>([])
  const to = ref<Address>({ country: '' })
  const basketProblem = ref('')
  const toProblem = ref('')
  const title = (id: string) => loft.index.get('product', id)?.title ?? id
  const textOf = (list: readonly BasketLine[]) => basketText(list, title)
  /** Null where there is nothing called so. */
  function readLines(text: string): BasketLine[] | null {
    const read = readBasket(text, loft.index.all('product').values())
    basketProblem.value = read && 'unknown' in read ? `There are no goods called “${read.unknown}”.` : ''
    return read && 'unknown' in read ? null : read
  }
  /** Null where it is no place that is known. */
  function readTo(text: string): Address | null {
    const read = readAddressText(text)
    toProblem.value = read ? '' : `“${text}” is no country or region that is known.`
    return read
  }
  /** One of each category, the one that is asked for before them: what a basket may begin with. */
  function candidates(asked?: string): string[] {
    const goods = [...loft.index.all('product').values()].filter(one => one.price !== undefined && one.of === undefined)
    const firstOf = new Map(goods.toReversed().map(one => [one.categories?.[0] ?? '', one.id]))
    return [...new Set([...(asked ? [asked] : []), ...[...firstOf.values()].toReversed()])].slice(0, 12)
  }
  return {
    lines,
    to,
    problem: computed(() => basketProblem.value || toProblem.value),
    linesText: computed(() => textOf(lines.value)),
    toText: computed(() => addressText(to.value)),
    textOf,
    readLines,
    readTo,
    setLines: (text: string) => void (lines.value = readLines(text) ?? lines.value),
    setTo: (text: string) => void (to.value = readTo(text) ?? to.value),
    candidates,
  }
}
export type BasketLookedAt = ReturnType<typeof useBasketLookedAt>
