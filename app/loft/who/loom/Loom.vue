<script setup lang="ts">
import type { Level } from '~~/core/rulebook/people-rules'
import { askedByRank, rankedAt } from '~~/core/groups/ranks'
import { useTurns } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import Grid from '~/loft/kit/grids/Grid.vue'
import { counted } from '~/loft/kit/words/text-words'
import type { Loom, LoomRung } from './loom'
import { askWho } from '../groups/questions'
import RungTold from './RungTold.vue'

/** Levels across, roles down: what is chosen is told beside it. Rungs are moved by dragging, or with Alt and the arrows. */
const props = defineProps<{
  loom: Loom
  /** `level ID`, `role ID`, `level ID × role ID`, `guest`, … */ chosen: string
}>()
const emit = defineEmits<{ choose: [key: string]; write: []; compare: [rung: LoomRung] }>()
const loft = useLoft()
const { problem, run } = useDeed()
const rungs = computed(() => props.loom.rungs.value)
const columns = computed(() => props.loom.columns.value)
const template = computed(() => `minmax(230px, 390px) repeat(${columns.value.length}, minmax(84px, 106px))`)
const crossKey = (rung: LoomRung, column: string) => `${rung.key} × ${column}`
const at = computed(() => {
  const [rung = '', column] = props.chosen.split(' × ')
  const row = rungs.value.findIndex(one => one.key === rung)
  if (row >= 0) return { row, column: column ? columns.value.findIndex(one => one.key === column) + 1 : 0 }
  return { row: 0, column: Math.max(0, columns.value.findIndex(one => one.key === props.chosen) + 1) }
})
const cellId = (row: number, column: number) => `loom-${row}-${column}`
function go(row: number, column: number) {
  const rung = rungs.value[row]!
  const isCrossed = column > 0 && rung.key !== 'guest'
  emit('choose', isCrossed ? crossKey(rung, columns.value[column - 1]!.key) : rung.key)
}
const acts = computed(() => ({
  Enter: () => emit('write'),
  c: () => emit('compare', rungs.value[at.value.row]!),
}))

const mayRank = computed(() => loft.mayEntry('level', 'change') && props.loom.which.value === 'draft')
/** What moving a rung would do, told while it is moved and after. */
const told = ref('')
const turn = useTurns()
const called = (level: Level) => level.name ?? level.id
async function wouldMove(level: Level, place: number): Promise<{ levels: Level[]; words: string } | null> {
  const levels = rankedAt(loft.draft, level.id, place)
  if (!levels.length) return null
  const isLast = turn()
  const { gain, lose, other, tiers } = await askWho('ranked', levels)
  if (!isLast()) return null
  const moved = gain + lose + other
  const asking = askedByRank(loft.draft, new Set(levels.map(one => one.id)))
  const order = [...levels].sort((a, b) => b.rank - a.rank).map(called)
  const cells = moved
    ? `${counted(moved, 'cell moves', 'cells move')} (${gain} gain, ${lose} lose) for ${tiers.join(', ')}`
    : 'no cell moves'
  const rules = asking.length
    ? ` ${counted(asking.length, 'rule asks', 'rules ask')} for them by rank and now ${asking.length === 1 ? 'means' : 'mean'} others.`
    : ''
  return { levels, words: `${order.join(' above ')}: ${cells}.${rules}` }
}
const placeOf = (level: Level) => props.loom.levels.value.findIndex(one => one.id === level.id)
async function move(level: Level, place: number) {
  if (!mayRank.value) return
  const found = await wouldMove(level, place)
  if (!found) return
  await run(() =>
    loft.steps(() => found.levels.map(one => loft.entryStep('level', one.id, one)), `the rank of ${called(level)}`),
  )
  told.value = found.words
}
function onKey(event: KeyboardEvent) {
  const by = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0
  const level = rungs.value[at.value.row]?.level
  if (!event.altKey || !by || !level) return
  event.preventDefault()
  void move(level, placeOf(level) + by)
}
const dragged = ref<Level | null>(null)
const over = ref('')
async function dragOver(event: DragEvent, rung: LoomRung) {
  if (!dragged.value || !rung.level) return
  event.preventDefault()
  if (over.value === rung.key) return
  over.value = rung.key
  const found = rung.level.id === dragged.value.id ? null : await wouldMove(dragged.value, placeOf(rung.level))
  if (over.value === rung.key) told.value = found?.words ?? ''
}
function drop(rung: LoomRung) {
  const level = dragged.value
  dragged.value = null
  over.value = ''
  if (level && rung.level && level.id !== rung.level.id) void move(level, placeOf(rung.level))
}
const grid = useTemplateRef<{ focus(): void }>('grid')
defineExpose({ focus: () => grid.value?.focus() })
</script>

<template>
  <div class="flex min-h-0 flex-col gap-1.5" @keydown="onKey">
    <Grid
      ref="grid"
      class="min-h-0"
      label="Levels across, visitor roles down"
      :rows="rungs.length"
      :columns="columns.length + 1"
      :row="at.row"
      :column="at.column"
      :active="cellId(at.row, at.column)"
      :acts="acts"
      @go="go">
      <div role="row" class="sticky top-0 z-10 grid bg-wool" :style="{ gridTemplateColumns: template }">
        <span role="columnheader" class="self-end pb-1.5"><slot name="corner" /></span>
        <span v-for="column in columns" :key="column.key" role="columnheader" class="text-center">
          <button
            class="min-h-6 w-full px-1 text-[13px] leading-[1.2] font-semibold [overflow-wrap:anywhere]"
            :class="{ 'underline decoration-2 underline-offset-2': chosen === column.key }"
            tabindex="-1"
            @click="emit('choose', column.key)">
            {{ column.name }}
            <span class="block text-[12px] font-normal text-soft"
              >{{ loom.crossings.value?.roles[column.role.id]?.toLocaleString('en') ?? (loom.crossings.value ? 0 : '')
              }}<template v-if="loom.crossings.value?.firms[column.key]">
                · {{ counted(loom.crossings.value.firms[column.key]!, 'firm') }}</template
              ></span
            >
            <i class="mx-auto block h-2.5 w-[18px]" :style="{ background: column.thread }" />
          </button>
        </span>
      </div>
      <div
        v-for="(rung, row) in rungs"
        :key="rung.key"
        role="row"
        class="grid min-h-[58px] border-t border-line last:border-b"
        :style="{ gridTemplateColumns: template, '--thread': rung.thread }"
        @dragover="dragOver($event, rung)"
        @drop.prevent="drop(rung)">
        <span :id="cellId(row, 0)" role="rowheader">
          <button
            class="rung"
            :class="{ picked: chosen === rung.key, over: over === rung.key }"
            tabindex="-1"
            :draggable="mayRank && rung.level !== undefined"
            @dragstart="dragged = rung.level ?? null"
            @dragend="((dragged = null), (over = ''))"
            @click="emit('choose', rung.key)">
            <RungTold :rung="rung" :held="loom.held(rung)" :total="loom.ladder.value?.total ?? 0" />
          </button>
        </span>
        <span
          v-for="(column, c) in columns"
          :id="cellId(row, c + 1)"
          :key="column.key"
          role="gridcell"
          class="crossing"
          :class="{ bare: rung.key === 'guest', picked: chosen === crossKey(rung, column.key) }"
          :style="{
            '--weft': `color-mix(in oklab, ${rung.thread} 36%, var(--wool))`,
            '--warp': `color-mix(in oklab, ${column.thread} 30%, transparent)`,
            '--role': column.thread,
          }">
          <button
            v-if="rung.key !== 'guest' && (loom.crossing(rung, column.role.id) || loom.brings(rung, column.role.id))"
            tabindex="-1"
            :aria-label="`${loom.crossing(rung, column.role.id)} hold ${rung.name} and ${column.name}${loom.brings(rung, column.role.id) ? ', which it brings' : ''}`"
            @click="emit('choose', crossKey(rung, column.key))">
            <b :class="{ knot: loom.brings(rung, column.role.id) }">{{
              loom.crossing(rung, column.role.id).toLocaleString('en')
            }}</b>
          </button>
        </span>
      </div>
    </Grid>
    <p v-if="told" class="rounded-lg bg-weld-pale px-3 py-1.5 text-[13.5px]" role="status">{{ told }}</p>
    <Told :problem="problem" />
  </div>
</template>
