<script setup lang="ts">
import { rightBit } from '~~/core/gates/verdict'
import type { Block } from '~~/core/kinds/block'
import type { Resource } from '~~/core/kinds/kinds'
import { useLoft } from '~/loft/core/loft'
import { cellOf } from '~/loft/core/worker/cells'
import { positionsOf } from '~/loft/kit/things/positions'
import ReachCell from '~/loft/kit/things/ReachCell.vue'
import { usePartPlaces } from './part-places'

/** How one thing is reached by every tier: a cell for each, the one looked as ringed. */
const props = defineProps<{ thing: Resource; tiers: { id: string; name: string }[]; tier: string }>()
const emit = defineEmits<{ tier: [id: string] }>()
const loft = useLoft()
const parts = usePartPlaces()
const bitsAt = (key: string, side: Parameters<typeof cellOf>[0], t: number) => {
  const at = positionsOf(loft.board?.things ?? []).get(key)
  return at === undefined ? 0 : cellOf(side, loft.board!.tiers.length, at, t)
}
/** Where it is one of several, those before it: whoever gets one of these does not get it, open as it may be. */
const first = computed(() => {
  const own = loft.index.get(props.thing.kind, props.thing.id) as Partial<Block> | undefined
  const group = own?.in && parts.holderOf(own as Block)
  if (!group?.oneOf) return []
  const all = loft.index.standingIn('block', group.id).map(one => one.id)
  return all.slice(0, all.indexOf(props.thing.id))
})
const goesTo = (side: Parameters<typeof cellOf>[0], t: number) =>
  first.value.find(id => bitsAt(`block ${id}`, side, t) & rightBit.open)
const position = computed(() => positionsOf(loft.board?.things ?? []).get(`${props.thing.kind} ${props.thing.id}`))
const cells = computed(() => {
  const { board } = loft
  const at = position.value
  if (!board || at === undefined) return []
  const side = loft.view === 'live' ? board.live : board.draft
  return board.tiers.map((tier, t) => ({
    tier,
    bits: goesTo(side, t) === undefined ? cellOf(side, board.tiers.length, at, t) : 0,
    before: goesTo(board.live, t) === undefined ? cellOf(board.live, board.tiers.length, at, t) : 0,
    note: goesTo(side, t) === undefined ? '' : 'another of them comes first',
  }))
})
</script>

<template>
  <p v-if="cells.length" class="flex flex-wrap gap-x-[3px] gap-y-1" role="group" aria-label="How each tier reaches it">
    <button
      v-for="one in cells"
      :key="one.tier.id"
      type="button"
      class="low w-[26px] rounded-[4px]"
      :class="one.tier.id === tier ? 'border-b-2 border-ink pb-0.5' : ''"
      @click="emit('tier', one.tier.id)">
      <ReachCell
        :bits="one.bits"
        :before="one.before"
        :thread="loft.threads.get(one.tier.id) ?? '#888'"
        :tier="one.tier.name"
        :note="one.note" />
    </button>
  </p>
</template>
