<script setup lang="ts">
import type { Offer } from '~~/core/rulebook/shop-rules'
import { sayOfferParts } from '~~/core/sentences/say-offer'
import { useLoft } from '~/loft/core/loft'
import InForce from '~/loft/kit/fields/InForce.vue'

/** The offers in the order in which they win ties; those that bear on the chosen product first. */
const props = defineProps<{
  offers: readonly Offer[]
  touching: ReadonlySet<string>
  shown: string | null
  mayChange: boolean
}>()
const emit = defineEmits<{ show: [id: string] }>()
const loft = useLoft()
const dragged = ref<string | null>(null)
const said = (offer: Offer) => sayOfferParts(offer, loft.lexicon)
const bands = (offer: Offer) => {
  const { bands: list, bonus } = said(offer)
  return [bonus, ...list.map(({ off, when }) => [off, when].filter(Boolean).join(' '))].filter(Boolean).join(' · ')
}
/** The tier an offer is for, for its dot; none where it is for a mix. */
const threadOf = (offer: Offer) => {
  const who = offer.for
  const tier = loft.draft.tiers?.find(one => {
    if (!who) return !one.visitor.person
    if ('role' in who && 'anyOf' in who.role)
      return who.role.anyOf.length === 1 && one.visitor.roles?.[0] === who.role.anyOf[0]
    if ('level' in who && 'atLeast' in who.level) return one.visitor.levels?.[0]?.level === who.level.atLeast
    return false
  })
  return (tier && loft.threads.get(tier.id)) ?? 'var(--soft)'
}
const state = (offer: Offer) => {
  if (loft.changes.some(one => one.kind === 'offer' && one.key === offer.id)) return 'draft'
  return offer.active === false ? 'off' : 'live'
}
const put = (offer: Offer, changes: Partial<Offer>) =>
  loft.change(
    'offer',
    offer.id,
    Object.fromEntries(Object.entries({ ...offer, ...changes }).filter(([, value]) => value !== undefined)),
  )
/** Of two that tie the earlier wins: whatever stands between is moved along. */
function place(id: string, before: string | null) {
  const moved = props.offers.find(one => one.id === id)
  if (!moved || id === before) return
  const rest = props.offers.filter(one => one.id !== id)
  const at = before === null ? rest.length : rest.findIndex(one => one.id === before)
  const order = [...rest.slice(0, at), moved, ...rest.slice(at)]
  order.forEach((offer, i) => {
    const wanted = (i + 1) * 10
    if ((offer.order ?? 100) !== wanted) put(offer, { order: wanted })
  })
}
function step(offer: Offer, by: -1 | 1) {
  const at = props.offers.indexOf(offer)
  const before = by < 0 ? props.offers[at - 1]?.id : (props.offers[at + 2]?.id ?? null)
  if (before !== undefined) place(offer.id, before)
}
</script>

<template>
  <section class="flex flex-col gap-1 pb-2" aria-label="Offers">
    <h2 class="text-[15px]">
      Offers
      <small class="font-normal text-soft"
        >{{ touching.size }} of {{ offers.length }} bear on the chosen goods; of two that tie the upper wins</small
      >
    </h2>
    <ul class="grid min-h-0 grid-cols-[minmax(0,1fr)] content-start gap-1 overflow-y-auto">
      <li
        v-for="offer in offers"
        :key="offer.id"
        class="flex items-center gap-2.5 rounded-lg border bg-sheet px-2.5 py-1 text-[13.5px]"
        :class="[
          shown === offer.id ? 'border-ink' : 'border-line',
          touching.has(offer.id) ? '' : '!border-dashed !bg-transparent',
          dragged === offer.id ? '!border-woad' : '',
        ]"
        :draggable="mayChange"
        @dragstart="dragged = offer.id"
        @dragend="dragged = null"
        @dragover.prevent
        @drop.prevent="dragged && place(dragged, offer.id)">
        <InForce
          :of="offer"
          :disabled="!mayChange"
          :what="`Offer ${offer.name ?? offer.id}`"
          @set="put(offer, $event)" />
        <i class="h-2.5 w-2.5 shrink-0 rounded-full" :style="{ background: threadOf(offer) }" />
        <button
          class="min-w-0 flex-1 truncate text-left"
          :aria-pressed="shown === offer.id"
          @click="emit('show', offer.id)"
          @keydown.alt.up.prevent="step(offer, -1)"
          @keydown.alt.down.prevent="step(offer, 1)">
          <b class="font-semibold">{{ offer.name ?? offer.id }}</b>
          <span class="text-soft"> for </span>{{ said(offer).who }}<span class="text-soft"> on </span>{{ said(offer).on
          }}<span v-if="said(offer).counted" class="text-soft">, {{ said(offer).counted }}</span
          ><span v-if="said(offer).base" class="text-soft">, {{ said(offer).base }}</span>
        </button>
        <span class="max-w-[46%] truncate text-right tabular-nums text-soft" :title="bands(offer)">{{
          bands(offer)
        }}</span>
        <span
          class="rounded border px-1.5 text-[12px] font-semibold"
          :class="state(offer) === 'draft' ? 'border-weld-line bg-weld-pale text-weld' : 'border-line'"
          >{{ state(offer) }}</span
        >
      </li>
      <li v-if="!offers.length" class="text-soft">
        No offers yet. Say one in the line above, such as “stockists 15 % off yarn from 10”.
      </li>
    </ul>
  </section>
</template>
