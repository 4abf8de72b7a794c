<script setup lang="ts">
import { taxNames } from '~~/core/sentences/lexicon'
import { sayText } from '~~/core/sentences/say'
import { sayTerm } from '~~/core/sentences/say-tax'
import { coversProduct } from '~~/core/shop/covers-product'
import { useLoft } from '~/loft/core/loft'

/** Other terms of tax that touch one product, where it is looked at. */
const props = defineProps<{ id: string }>()
const loft = useLoft()
const tax = computed(() => (loft.may('tax', 'look') ? (loft.book.tax ?? {}) : {}))
const product = computed(() => loft.index.get('product', props.id))
/** As it says itself, or as some terms make it: exceptions to rates of any of these touch it. */
const goods = computed(() =>
  (tax.value.goods ?? []).filter(one => product.value && coversProduct(one.on, product.value, loft.index)),
)
const categories = computed(
  () => new Set([product.value?.taxCategory ?? 'standard', ...goods.value.flatMap(one => one.category ?? [])]),
)
const rates = computed(
  () => new Map((tax.value.rates ?? []).filter(one => categories.value.has(one.category)).map(one => [one.id, one])),
)
const terms = computed(() => [
  ...(tax.value.exceptions ?? [])
    .filter(one => rates.value.has(one.rate))
    .map(one => ({ kind: 'exception' as const, one })),
  ...goods.value.map(one => ({ kind: 'goods' as const, one })),
])
const lexicon = computed(() => ({ ...loft.lexicon, ...taxNames(loft.book) }))
</script>

<template>
  <div v-if="tax.settings && product" class="grid gap-1 text-[13px]">
    <ul v-if="terms.length" class="grid gap-1 text-soft" aria-label="Other terms of tax">
      <li
        v-for="term in terms"
        :key="`${term.kind} ${term.one.id}`"
        :class="{ 'line-through': term.one.active === false }">
        <b class="text-ink">{{ sayText(term.one.for, loft.lexicon) }}</b> {{ sayTerm(term, lexicon) }}
        <NuxtLink
          class="text-woad underline"
          :to="`/loft/shop?tab=taxes&term=${term.kind}.${term.one.id}&product=${id}`"
          >change</NuxtLink
        >
      </li>
    </ul>
    <NuxtLink class="text-woad underline" :to="`/loft/shop?tab=taxes&product=${id}`"
      >What of it is tax, and other terms for some</NuxtLink
    >
  </div>
</template>
