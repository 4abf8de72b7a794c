<script setup lang="ts">
import type { Resource } from '~~/core/kinds/kinds'

/** How one thing is reached by every tier: a cell for each, the one looked as ringed. */
const props = defineProps<{ thing: Resource; tiers: { id: string; name: string }[]; tier: string }>()
const emit = defineEmits<{ tier: [id: string] }>()
const loft = useLoft()
const position = computed(() => positionsOf(loft.board?.things ?? []).get(`${props.thing.kind} ${props.thing.id}`))
const cells = computed(() => {
  const { board } = loft
  const at = position.value
  if (!board || at === undefined) return []
  const side = loft.view === 'live' ? board.live : board.draft
  return board.tiers.map((tier, t) => ({
    tier,
    bits: cellOf(side, board.tiers.length, at, t),
    before: cellOf(board.live, board.tiers.length, at, t),
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
      <LoftReachCell
        :bits="one.bits"
        :before="one.before"
        :thread="loft.threads.get(one.tier.id) ?? '#888'"
        :tier="one.tier.name" />
    </button>
  </p>
</template>
