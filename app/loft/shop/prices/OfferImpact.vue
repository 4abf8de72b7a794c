<script setup lang="ts">
import type { Offer } from '~~/core/rulebook/shop-rules'
import { called } from '~~/core/sentences/names'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { askPrices } from './questions'
import type { WeighedOffer } from './questions'

/** What an offer does, measured on the boards: how many prices it moves, for whom, and what falls under cost. */
const props = defineProps<{ offer: Offer; quantity: number; costs: ReadonlyMap<string, number> }>()
const loft = useLoft()
const weighed = shallowRef<WeighedOffer | null>(null)
watchLast(
  [() => props.offer, () => loft.told, () => props.quantity, () => props.costs],
  async isLast => {
    if (!loft.board) return
    // Measured from the other side: what taking it away would move is what it moves.
    const { offer } = props
    const [answer] = await askPrices('weigh', {
      alternatives: [[{ key: offer.id, body: null }]],
      quantity: props.quantity,
      costs: {},
    })
    if (isLast()) weighed.value = answer ?? null
  },
  { immediate: true },
)
const tierName = (id: string) => called(loft.tiers, id)
const whom = computed(() =>
  Object.entries(weighed.value?.impact.byTier ?? {}).map(([tier, n]) => `${tierName(tier)} ${n}`),
)
</script>

<template>
  <p v-if="weighed" class="note">
    <template v-if="weighed.impact.moved"
      >It makes {{ weighed.impact.moved }} prices of {{ weighed.impact.products }} goods:
      {{ whom.join(', ') }}.</template
    >
    <template v-else-if="offer.active === false">Switched off, it makes no price.</template>
    <template v-else-if="offer.code">It makes no price that shows: it waits for its code.</template>
    <template v-else-if="offer.by === 'spend' || offer.bonus"
      >It makes no price of a single piece: it counts in the basket.</template
    >
    <template v-else
      >It makes no price at this quantity: nobody gets it, something else is lower, or its first step begins
      later.</template
    >
  </p>
</template>
