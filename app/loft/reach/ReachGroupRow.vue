<script setup lang="ts">
import { reaches, reachOf } from '~~/core/gates/verdict'
import { cellOf } from '~/loft/core/worker/cells'
import type { Cells } from '~/loft/core/worker/questions'
import Asleep from './Asleep.vue'
import { cellId } from './reach-rows'
import type { GroupRow } from './reach-rows'
import RowTick from './RowTick.vue'

const props = defineProps<{
  row: GroupRow
  /** Gates on all of the kind that are switched off. */ asleep: string
  tiers: { id: string; name: string }[]
  cells: Cells
  /** Where the group is all of a kind, its shares are counted already. */
  counted: number[][] | undefined
  threads: Map<string, string>
  chosen: number | null
  /** Something is ticked. */ ticking: boolean
  ticked: boolean
}>()
const emit = defineEmits<{ fold: []; tick: []; select: [tier: number] }>()

/** How many things of the group each tier leaves unseen, glimpses, opens and takes. */
const shares = computed(
  () =>
    (props.counted as [number, number, number, number][] | undefined) ??
    props.tiers.map((_, t) => {
      const counts = [0, 0, 0, 0]
      for (const position of props.row.positions)
        counts[reaches.indexOf(reachOf(cellOf(props.cells, props.tiers.length, position, t)))]!++
      return counts as [number, number, number, number]
    }),
)
const said = (counts: number[]) => `${counts[3]} taken, ${counts[2]} opened, ${counts[1]} glimpsed, ${counts[0]} unseen`
</script>

<template>
  <span role="rowheader" class="flex min-w-0 items-baseline gap-1.5">
    <button
      v-if="!row.everything"
      tabindex="-1"
      class="flex min-w-0 items-baseline gap-1.5 text-left"
      :aria-expanded="row.open"
      @click="emit('fold')">
      <span class="w-3 text-[10px]" aria-hidden="true">{{ row.open ? '▾' : '▸' }}</span>
      <b class="display truncate text-[14.5px]">{{ row.title }}</b>
    </button>
    <b v-else class="display truncate text-[14.5px]" @click="emit('select', chosen ?? 0)">{{ row.title }}</b>
    <span class="text-[12px] text-soft">{{ row.positions.length }}</span>
    <Asleep v-if="asleep" :gates="asleep" />
    <button v-if="row.kind || row.everything" tabindex="-1" class="said-of-all" @click="emit('select', chosen ?? 0)">
      what is said of {{ row.everything ? 'it' : 'all' }}
    </button>
    <RowTick v-if="!row.everything" :on="ticked" :shown="ticking" :of="`all ${row.title}`" @tick="emit('tick')" />
  </span>
  <span
    v-for="(tier, t) in tiers"
    :id="cellId(row.key, t)"
    :key="tier.id"
    role="gridcell"
    class="mx-[3px] flex h-[9px] gap-px rounded-[3px]"
    :class="t === chosen ? 'outline-2 outline-offset-2 outline-ink' : ''"
    :aria-label="`${tier.name}: ${said(shares[t]!)}`"
    :title="`${tier.name}: ${said(shares[t]!)}`"
    @click="emit('select', t)">
    <template v-for="(opacity, i) in [1, 0.78, 0.35]" :key="i"
      ><i
        v-if="shares[t]![3 - i]"
        class="block h-full rounded-[2px]"
        :style="{ background: threads.get(tier.id), opacity, flexGrow: shares[t]![3 - i] }"
    /></template>
    <i class="block" :style="{ flexGrow: shares[t]![0] }" />
  </span>
</template>
