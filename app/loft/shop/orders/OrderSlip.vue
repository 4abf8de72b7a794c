<script setup lang="ts">
import { countryName } from '~~/core/sentences/place-name'
import { isTaxed } from '~~/core/tax/tax-trail'
import { useLoft } from '~/loft/core/loft'
import type { OrderTold } from '~/loft/core/route-answers'
import { useDay } from '~/loft/kit/fields/loft-form'

/** What lies in a parcel, to pack by and to lay into it: no amounts, which stand on the invoice. */
const props = defineProps<{ order: OrderTold }>()
const loft = useLoft()
const { moment } = useDay()
const lines = computed(() =>
  props.order.basket.lines.filter(isTaxed).flatMap(({ product, quantity }, i) => {
    const left = quantity - (props.order.refundedPieces[i] ?? 0)
    return left > 0 ? [{ product, left }] : []
  }),
)
const address = computed(() => {
  const to = props.order.buyer?.address
  return to ? [to.lines, [to.postcode, to.town].filter(Boolean).join(' '), countryName(to.country)] : []
})
</script>

<template>
  <article class="grid gap-4 break-after-page pb-6 text-[15px]">
    <header class="flex items-baseline justify-between border-b-2 border-current pb-1">
      <h2 class="text-[20px]">Order {{ order.number }}</h2>
      <span>{{ loft.site.name }}, {{ moment(order.placedAt) }}</span>
    </header>
    <address class="text-[18px] leading-snug not-italic">
      <b>{{ order.buyer?.name ?? 'Somebody, whom you may not see' }}</b>
      <template v-for="(line, i) in address" :key="i"><br />{{ line }}</template>
    </address>
    <table class="w-full" aria-label="What lies in it">
      <tbody>
        <tr v-for="(line, i) in lines" :key="i" class="border-t border-current">
          <td class="w-8 py-1.5" aria-hidden="true">☐</td>
          <td class="w-16 py-1.5 pr-4 text-right font-semibold tabular-nums">{{ line.left }} ×</td>
          <td class="py-1.5">{{ order.titles[line.product] ?? line.product }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="order.delivery">{{ order.delivery.name }}</p>
    <p v-if="order.note">“{{ order.note }}”</p>
  </article>
</template>
