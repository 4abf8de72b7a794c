<script setup lang="ts">
import type { Described } from '~/kinds/described'
import { cellOf } from '~/loft/core/worker/cells'
import type { Cells } from '~/loft/core/worker/questions'
import ReachCell from '~/loft/kit/things/ReachCell.vue'
import Asleep from './Asleep.vue'
import { cellId } from './reach-rows'
import type { ThingRow } from './reach-rows'
import RowTick from './RowTick.vue'

const props = defineProps<{
  row: ThingRow
  described: Described
  /** Gates on it that are switched off. */ asleep: string
  tiers: { id: string; name: string }[]
  cells: Cells
  before: Cells
  threads: Map<string, string>
  chosen: number | null
  /** Something is ticked. */ ticking: boolean
  ticked: boolean
}>()
const emit = defineEmits<{ fold: []; tick: []; select: [tier: number]; edit: [] }>()
const bits = (list: Cells, t: number) => cellOf(list, props.tiers.length, props.row.position, t)
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
      :aria-label="row.open ? `Fold ${described.title}` : `Unfold ${described.title}`"
      @click="emit('fold')">
      {{ row.open ? '▾' : '▸' }}
    </button>
    <span class="max-w-[calc(100%-20px)] shrink-0 truncate" :class="chosen === null ? '' : 'font-semibold'">{{
      described.title
    }}</span>
    <Asleep v-if="asleep" :gates="asleep" />
    <span class="min-w-0 truncate text-[12px] text-soft">{{
      row.below && !row.open ? `and ${row.below} below` : described.note
    }}</span>
    <RowTick :on="ticked" :shown="ticking" :of="described.title" @tick="emit('tick')" />
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
    ><ReachCell
      :bits="bits(cells, t)"
      :before="bits(before, t)"
      :thread="threads.get(tier.id) ?? '#888'"
      :tier="tier.name"
  /></span>
</template>
