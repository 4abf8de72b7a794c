<script setup lang="ts">
import { rateName, taxNames } from '~~/core/sentences/lexicon'
import { called } from '~~/core/sentences/names'
import { termCalled } from '~~/core/sentences/say-tax'
import { trailLines } from '~~/core/shop/trail-words'
import type { DeliveryTaxed, TaxedLine } from '~~/core/tax/tax-trail'
import { deliveryTrailLines, taxTrailLines } from '~~/core/tax/tax-words'
import type { TrailNames } from '~~/core/tax/tax-words'
import { useLoft } from '~/loft/core/loft'
import { useMoney } from '~/loft/kit/fields/money'

/** Where an amount of a receipt comes from: its price, then its taxes, each with what says so. */
const props = defineProps<{ of: { line: TaxedLine } | { delivery: DeliveryTaxed }; edition?: number }>()
const loft = useLoft()
const { money } = useMoney()
const names = computed((): TrailNames => {
  const lexicon = { ...loft.lexicon, ...taxNames(loft.book) }
  const tax = (id: string) => called(lexicon.taxes, id)
  return {
    term: id => termCalled(loft.book.tax, id, lexicon),
    rate: id => {
      const rate = loft.book.tax?.rates?.find(one => one.id === id)
      return rate ? `${tax(rate.tax)} ${rateName(rate)}` : id
    },
  }
})
/** Of offers those that are for whoever buys: the whole ladder stands at the price. */
const others: ReadonlySet<string> = new Set(['notForVisitor', 'inactive'])
const priced = computed(() => {
  if (!('line' in props.of)) return []
  const { line } = props.of
  const steps = line.steps.filter(({ outcome }) => !others.has(outcome))
  return trailLines({ ...line, steps }, { offers: loft.book.offers ?? [], money })
})
const taxed = computed(() =>
  'line' in props.of
    ? taxTrailLines(props.of.line.tax, names.value)
    : deliveryTrailLines(props.of.delivery.trail, names.value),
)
const sums = computed(() => ('line' in props.of ? props.of.line : props.of.delivery))
</script>

<template>
  <ul class="grid gap-0.5 border-l-2 border-line pl-2 text-[12.5px] text-soft" aria-live="polite">
    <li v-for="(one, at) in priced" :key="`p${at}`" :class="{ 'font-semibold text-ink': one.made }">
      {{ one.name }}{{ one.words ? `, ${one.words}` : ''
      }}{{ one.amount === undefined ? '' : `: ${money(one.amount)}` }}
    </li>
    <li v-for="(words, at) in taxed" :key="`t${at}`">{{ words }}</li>
    <li>
      without tax {{ money(sums.net) }}, with tax {{ money(sums.gross)
      }}{{ edition === undefined ? '' : `, by edition ${edition}` }}
    </li>
  </ul>
</template>
