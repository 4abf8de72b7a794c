<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import type { SiteIndex } from '~~/core/site/site-index'
import type { SleepingGates } from '~/composables/sleeping-gates'
import type { GroupRow, Row } from '~/composables/reach-rows'
import type { BoardAnswer } from '~/workers/core-messages'

const props = defineProps<{
  board: BoardAnswer
  rows: Row[]
  index: SiteIndex
  threads: Map<string, string>
  which: 'live' | 'draft'
  notes: Record<string, string>
  /** Where gates stand that are switched off. */ asleep: SleepingGates
  selected: { row: string; tier: number }
  /** Names, `kind id`, of things that are ticked. */ ticked: ReadonlySet<string>
}>()
const emit = defineEmits<{
  select: [row: string, tier: number]
  fold: [key: string]
  /** By position. */ tick: [things: readonly number[]]
  why: []
  edit: []
  walk: []
  compare: []
  group: []
}>()

const rowHeight = 27
const grid = ref<{ element: HTMLElement | null; focus(): void } | null>(null)
const virtual = useVirtualizer(
  computed(() => ({
    count: props.rows.length,
    getScrollElement: () => grid.value?.element ?? null,
    estimateSize: () => rowHeight,
    overscan: 12,
    scrollPaddingStart: 64,
  })),
)
const shown = computed(() =>
  virtual.value
    .getVirtualItems()
    .flatMap(item => (props.rows[item.index] ? [{ ...item, row: props.rows[item.index]! }] : [])),
)
const columns = computed(() => `minmax(180px, 1fr) repeat(${props.board.tiers.length}, minmax(46px, 66px))`)
const cells = computed(() => (props.which === 'live' ? props.board.live : props.board.draft))
/** The shares of a whole kind come with the board; of a part of one they are counted. */
function countedOf(row: GroupRow): number[][] | undefined {
  if (row.everything) {
    const kinds = Object.values(props.board.shares[props.which])
    return props.board.tiers.map((_, t) =>
      [0, 1, 2, 3].map(reach => kinds.reduce((sum, of) => sum + of[t]![reach]!, 0)),
    )
  }
  const counted = row.kind && props.board.shares[props.which][row.kind]
  return counted?.[0]?.reduce((sum, n) => sum + n, 0) === row.positions.length ? counted : undefined
}
const at = computed(() => props.rows.findIndex(row => row.key === props.selected.row))
const chosenIn = (row: Row) => (row.key === props.selected.row ? props.selected.tier : null)
const foldKey = (row: Row) => (row.type === 'group' ? row.key : `${row.kind} ${row.id}`)

function go(row: number, tier: number) {
  emit('select', props.rows[row]!.key, tier)
  virtual.value.scrollToIndex(row)
}

const positionsIn = (row: Row) => (row.type === 'group' ? row.positions : [row.position])
const isTicked = (row: Row) =>
  props.ticked.size > 0 &&
  positionsIn(row).every(at => props.ticked.has(`${props.board.things[at]!.kind} ${props.board.things[at]!.id}`))
function tickHere() {
  const row = props.rows[at.value]
  if (row) emit('tick', positionsIn(row))
}

const acts: Record<string, () => void> = {
  Enter: () => emit('why'),
  e: () => emit('edit'),
  w: () => emit('walk'),
  c: () => emit('compare'),
  g: () => emit('group'),
  t: tickHere,
  ' ': () => {
    const row = props.rows[at.value]
    if (row) emit('fold', foldKey(row))
  },
}
defineExpose({
  focus: () => grid.value?.focus(),
  show: (key: string) =>
    virtual.value.scrollToIndex(
      Math.max(
        0,
        props.rows.findIndex(row => row.key === key),
      ),
      { align: 'center' },
    ),
})
</script>

<template>
  <LoftGrid
    ref="grid"
    class="h-full"
    label="Who reaches what"
    :rows="rows.length"
    :columns="board.tiers.length"
    :row="at"
    :column="selected.tier"
    :active="at >= 0 ? cellId(selected.row, selected.tier) : undefined"
    :acts="acts"
    @go="go">
    <div class="min-w-[620px]">
      <div
        role="row"
        aria-rowindex="1"
        class="sticky top-0 z-10 grid items-end bg-wool pb-2"
        :style="{ gridTemplateColumns: columns }">
        <span role="columnheader" class="pb-0.5 text-[12.5px] text-soft"
          >{{ board.things.length.toLocaleString('en') }} things · {{ board.tiers.length }} tiers</span
        >
        <span
          v-for="(tier, t) in board.tiers"
          :key="tier.id"
          role="columnheader"
          class="px-[3px] text-[12px] leading-[1.2]">
          <b
            class="block font-semibold [overflow-wrap:anywhere]"
            :class="t === selected.tier ? 'underline decoration-2 underline-offset-2' : ''"
            >{{ tier.name }}</b
          >
          <span class="block truncate text-[11.5px] text-soft">{{ notes[tier.id] || ' ' }}</span>
          <i class="mt-1 block h-1 rounded-full" :style="{ background: threads.get(tier.id) }" />
        </span>
      </div>
      <div class="relative" role="rowgroup" :style="{ height: `${virtual.getTotalSize()}px` }">
        <div
          v-for="item in shown"
          :key="item.row.key"
          role="row"
          :aria-rowindex="item.index + 2"
          class="absolute left-0 grid w-full items-center border-b border-line"
          :class="item.row.type === 'group' ? 'bg-band' : ''"
          :style="{ gridTemplateColumns: columns, height: `${rowHeight}px`, transform: `translateY(${item.start}px)` }">
          <LoftReachGroupRow
            v-if="item.row.type === 'group'"
            :row="item.row"
            :asleep="item.row.everything ? asleep.everywhere : item.row.kind ? asleep.onKind(item.row.kind) : ''"
            :tiers="board.tiers"
            :cells="cells"
            :counted="countedOf(item.row)"
            :threads="threads"
            :chosen="chosenIn(item.row)"
            :ticking="ticked.size > 0"
            :ticked="isTicked(item.row)"
            @tick="emit('tick', positionsIn(item.row))"
            @fold="emit('fold', foldKey(item.row))"
            @select="emit('select', item.row.key, $event)" />
          <LoftReachThingRow
            v-else
            :row="item.row"
            :described="described(item.row, index)"
            :asleep="asleep.on(item.row, index)"
            :tiers="board.tiers"
            :cells="cells"
            :before="which === 'live' ? cells : board.live"
            :threads="threads"
            :chosen="chosenIn(item.row)"
            :ticking="ticked.size > 0"
            :ticked="isTicked(item.row)"
            @tick="emit('tick', [item.row.position])"
            @fold="emit('fold', foldKey(item.row))"
            @select="emit('select', item.row.key, $event)"
            @edit="emit('edit')" />
        </div>
      </div>
      <p v-if="!rows.length" class="p-6 text-soft">Nothing fits these filters.</p>
    </div>
  </LoftGrid>
</template>
