<script setup lang="ts">
import type { ThingRow } from '~/composables/reach-rows'

const props = defineProps<{
  row: ThingRow
  tiers: { id: string; name: string }[]
  cells: Uint8Array
  before: Uint8Array
  threads: Map<string, string>
  chosen: number | null
}>()
const emit = defineEmits<{ fold: []; select: [tier: number]; edit: [] }>()
const bits = (list: Uint8Array, t: number) => cellOf(list, props.tiers.length, props.row.position, t)
</script>

<template>
  <span
    role="rowheader"
    class="relative flex min-w-0 items-baseline gap-1.5 whitespace-nowrap"
    :style="{ paddingLeft: `${14 + row.depth * 15}px` }">
    <button
      v-if="row.below"
      tabindex="-1"
      class="absolute top-1 w-3 text-[10px] text-soft"
      :style="{ left: `${row.depth * 15}px` }"
      :aria-label="row.open ? `Fold ${row.title}` : `Unfold ${row.title}`"
      @click="emit('fold')">
      {{ row.open ? '▾' : '▸' }}
    </button>
    <span class="max-w-full shrink-0 truncate" :class="chosen === null ? '' : 'font-semibold'">{{ row.title }}</span>
    <span class="min-w-0 truncate text-[12px] text-soft">{{
      row.below && !row.open ? `and ${row.below} below` : row.note
    }}</span>
  </span>
  <span
    v-for="(tier, t) in tiers"
    :id="cellId(row.key, t)"
    :key="tier.id"
    role="gridcell"
    :aria-selected="t === chosen"
    :class="{ chosen: t === chosen }"
    @click="emit('select', t)"
    @dblclick="emit('edit')"
    ><LoftReachCell
      :bits="bits(cells, t)"
      :before="bits(before, t)"
      :thread="threads.get(tier.id) ?? '#888'"
      :tier="tier.name"
  /></span>
</template>
