<script setup lang="ts">
import type { PriceImpact } from '~~/core/audit/prices-board'
import { typedMoney } from '~~/core/money'
import { called } from '~~/core/sentences/names'
import { useLoft } from '~/loft/core/loft'
import { counted } from '~/loft/kit/words/text-words'

/** What a change does to prices: how many move, the largest, what falls under cost, who pays more than before. */
const props = defineProps<{ impact: PriceImpact }>()
const loft = useLoft()
const money = (minor: number) => typedMoney(minor, loft.site.currency ?? 'EUR')
const title = (id: string) => loft.index.get('product', id)?.title ?? id
const tier = (id: string) => called(loft.tiers, id)
const told = (move: { product: string; tier: string; before: number; after: number }) =>
  `${title(move.product)} for ${tier(move.tier)}, ${money(move.before)} to ${money(move.after)}`
const shown = 3
const more = (n: number) => (n > shown ? ` and ${n - shown} more` : '')
const pays = computed(() => props.impact.pays.slice(0, shown).map(told).join('; ') + more(props.impact.higher))
const under = computed(
  () => props.impact.underCost.slice(0, shown).map(told).join('; ') + more(props.impact.underCost.length),
)
</script>

<template>
  <div class="grid gap-0.5 text-[13.5px]">
    <p v-if="impact.moved">
      {{ counted(impact.moved, 'price') }} of {{ counted(impact.products, 'product') }}
      {{ impact.moved === 1 ? 'moves' : 'move' }}: {{ impact.lower }} down, {{ impact.higher }} up.
      <template v-if="impact.largest">The largest: {{ told(impact.largest) }}.</template>
    </p>
    <p v-if="impact.pays.length" class="font-semibold text-weld">Pays more than before: {{ pays }}.</p>
    <p v-if="impact.underCost.length" class="wrong">Falls under cost: {{ under }}.</p>
  </div>
</template>
