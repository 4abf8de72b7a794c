<script setup lang="ts">
import type { SiteIndex } from '~~/core/site/site-index'
import { described } from '~/kinds/described'
import type { BoardAnswer } from '~/loft/core/worker/questions'
import VirtualGrid from '~/loft/kit/grids/VirtualGrid.vue'
import { cellId } from './reach-rows'
import type { GroupRow, Row } from './reach-rows'
import ReachGroupRow from './ReachGroupRow.vue'
import ReachThingRow from './ReachThingRow.vue'
import type { SleepingGates } from './sleeping-gates'
import TierHead from './TierHead.vue'

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
  /** What keys do besides moving, ticking and folding. */ does: Readonly<
    Record<'why' | 'edit' | 'walk' | 'compare' | 'group', () => void>
  >
}>()
const emit = defineEmits<{
  select: [row: string, tier: number]
  fold: [key: string]
  /** By position. */ tick: [things: readonly number[]]
}>()

const rowHeight = 27
const grid = ref<{ focus(): void; show(row: number, align?: 'auto' | 'center'): void } | null>(null)
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
  grid.value?.show(row)
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
  Enter: () => props.does.why(),
  e: () => props.does.edit(),
  w: () => props.does.walk(),
  c: () => props.does.compare(),
  g: () => props.does.group(),
  t: tickHere,
  h: () => document.getElementById(`tier-head-${props.board.tiers[props.selected.tier]?.id}`)?.click(),
  ' ': () => {
    const row = props.rows[at.value]
    if (row) emit('fold', foldKey(row))
  },
}
const walk = computed(() => ({
  columns: props.board.tiers.length,
  row: at.value,
  column: props.selected.tier,
  active: at.value >= 0 ? cellId(props.selected.row, props.selected.tier) : undefined,
  acts,
}))
/** What rows of both sorts are told, and what is heard of them. */
const told = (row: Row) => ({
  tiers: props.board.tiers,
  cells: cells.value,
  threads: props.threads,
  chosen: chosenIn(row),
  ticking: props.ticked.size > 0,
  ticked: isTicked(row),
})
const heard = (row: Row) => ({
  tick: () => emit('tick', positionsIn(row)),
  fold: () => emit('fold', foldKey(row)),
  select: (tier: number) => emit('select', row.key, tier),
})
defineExpose({
  focus: () => grid.value?.focus(),
  show: (key: string) =>
    grid.value?.show(
      props.rows.findIndex(row => row.key === key),
      'center',
    ),
})
</script>

<template>
  <VirtualGrid
    ref="grid"
    class="h-full"
    label="Who reaches what"
    :rows="rows"
    :key-of="row => row.key"
    :height-of="() => rowHeight"
    :row-class="row => (row.type === 'group' ? 'bg-band' : '')"
    :template="columns"
    :width="620"
    :walk="walk"
    nothing="Nothing fits these filters."
    @go="go">
    <template #head>
      <span role="columnheader" class="pb-0.5 text-[12.5px] text-soft"
        >{{ board.things.length.toLocaleString('en') }} things · {{ board.tiers.length }} tiers</span
      >
      <span v-for="(tier, t) in board.tiers" :key="tier.id" role="columnheader">
        <TierHead
          :tier="tier"
          :note="notes[tier.id] ?? ''"
          :thread="threads.get(tier.id)"
          :chosen="t === selected.tier" />
      </span>
    </template>
    <template #default="{ row }">
      <ReachGroupRow
        v-if="row.type === 'group'"
        v-bind="told(row)"
        :row="row"
        :asleep="row.everything ? asleep.everywhere : row.kind ? asleep.onKind(row.kind) : ''"
        :counted="countedOf(row)"
        v-on="heard(row)" />
      <ReachThingRow
        v-else
        v-bind="told(row)"
        :row="row"
        :described="described(row, index)"
        :asleep="asleep.on(row, index)"
        :before="which === 'live' ? cells : board.live"
        v-on="heard(row)"
        @edit="does.edit" />
    </template>
  </VirtualGrid>
</template>
