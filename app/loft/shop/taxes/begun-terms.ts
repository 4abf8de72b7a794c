/** Other terms, begun: what they say so far changes nothing, and each is a sentence of its own. */
import type { Condition } from '~~/core/conditions/condition'
import { sayText } from '~~/core/sentences/say'
import { useLoft } from '~/loft/core/loft'
import { freshId } from '~/loft/kit/things/fresh-id'
import { longestId } from '~/loft/kit/words/offer-words'

export type AboutTerms = { rate: string } | { product: string } | { delivery: string } | { showing: true }

/** `show` is told which term is to be looked at. */
export function useBegunTerms(show: (term: string) => void) {
  const loft = useLoft()
  const tax = computed(() => loft.book.tax ?? {})
  const idFor = (name: string, list: readonly { id: string }[] | undefined) =>
    freshId(
      name.slice(0, longestId),
      (list ?? []).map(one => one.id),
    )
  const alike = (one: { for: Condition }, who: Condition) => JSON.stringify(one.for) === JSON.stringify(who)

  function begin(kind: 'exception' | 'goods' | 'shown', id: string, body: object) {
    loft.change(kind, id, { id, ...body })
    show(`${kind} ${id}`)
  }
  const beginRate = (who: Condition, name: string, rate: string) =>
    begin('exception', idFor(`${name} ${rate}`, tax.value.exceptions), {
      for: who,
      rate,
      percent: String(tax.value.rates?.find(one => one.id === rate)?.percent ?? '0'),
    })
  const beginGoods = (who: Condition, name: string, product: string) =>
    begin('goods', idFor(`${name} ${product}`, tax.value.goods), { for: who, on: { products: [product] } })
  const beginShown = (who: Condition, name: string) =>
    begin('shown', idFor(`${name} prices`, tax.value.shown), { for: who })

  function conditionOf(tier: string): Condition {
    const { visitor } = loft.tiers.find(one => one.id === tier)!
    if (!visitor.person) return { signedIn: false }
    if (visitor.roles?.length) return { role: { anyOf: [...visitor.roles] } }
    const level = visitor.levels?.at(-1)?.level
    return level ? { level: { atLeast: level } } : { signedIn: true }
  }
  /** For a tier where one has clicked: where the very same is said of them already, that is shown. */
  function say(tier: string, about: AboutTerms) {
    const name = loft.tiers.find(one => one.id === tier)?.name ?? tier
    const who = conditionOf(tier)
    if ('rate' in about) {
      const before = (tax.value.exceptions ?? []).find(one => one.rate === about.rate && alike(one, who))
      if (before) show(`exception ${before.id}`)
      else beginRate(who, name, about.rate)
    } else if ('product' in about) beginGoods(who, name, about.product)
    else {
      const before = (tax.value.shown ?? []).find(one => alike(one, who))
      if (before) show(`shown ${before.id}`)
      else beginShown(who, name)
    }
  }
  /** For those who were named: always a sentence more, of a rate they have none for yet where there is one. */
  function sayFor(who: Condition, kind: 'rate' | 'goods' | 'shown', product: string | undefined) {
    const name = sayText(who, loft.lexicon)
    if (kind === 'shown') return beginShown(who, name)
    if (kind === 'goods') return product === undefined ? undefined : beginGoods(who, name, product)
    const rates = tax.value.rates ?? []
    const said = (rate: string) => tax.value.exceptions?.some(one => one.rate === rate && alike(one, who))
    const rate = rates.find(one => !said(one.id)) ?? rates[0]
    if (rate) beginRate(who, name, rate.id)
  }
  return { say, sayFor }
}
