<script setup lang="ts" generic="R">
import { useVirtualizer } from '@tanstack/vue-virtual'
import Grid from './Grid.vue'
import type { GridWalk } from './walk'

/** A grid of any number of rows under headings that stay in sight: only the rows that are seen are drawn. */
const props = defineProps<{
  label: string
  rows: readonly R[]
  keyOf(row: R): string
  /** Pixels. */ heightOf(row: R): number
  rowClass?(row: R): string
  /** Of the grid's columns, in CSS, and the least width of them all, in pixels. */
  template: string
  width: number
  walk: GridWalk
  /** Said where there is no row. */ nothing: string
}>()
const emit = defineEmits<{ go: [row: number, column: number]; /** Those that are drawn. */ shown: [rows: R[]] }>()
defineSlots<{ head(): unknown; default(props: { row: R }): unknown }>()

/** Pixels the headings take, under which no row is walked. */
const underHead = 60
const grid = ref<{ element: HTMLElement | null; focus(): void } | null>(null)
const virtual = useVirtualizer(
  computed(() => ({
    count: props.rows.length,
    getScrollElement: () => grid.value?.element ?? null,
    estimateSize: (i: number) => (i < props.rows.length ? props.heightOf(props.rows[i]!) : 0),
    overscan: 10,
    scrollPaddingStart: underHead,
    getItemKey: (i: number) => (i < props.rows.length ? props.keyOf(props.rows[i]!) : i),
  })),
)
const drawn = computed(() =>
  virtual.value
    .getVirtualItems()
    .flatMap(({ index, start }) => (index < props.rows.length ? [{ index, start, row: props.rows[index]! }] : [])),
)
watch(
  drawn,
  list =>
    emit(
      'shown',
      list.map(one => one.row),
    ),
  { immediate: true },
)
defineExpose({
  focus: () => grid.value?.focus(),
  /** Brings a row into sight. */
  show: (row: number, align: 'auto' | 'center' = 'auto') => virtual.value.scrollToIndex(Math.max(0, row), { align }),
})
</script>

<template>
  <Grid ref="grid" :label="label" :rows="rows.length" v-bind="walk" @go="(to, at) => emit('go', to, at)">
    <div :style="{ minWidth: `${width}px` }">
      <div
        role="row"
        aria-rowindex="1"
        class="sticky top-0 z-10 grid items-end bg-wool pb-1.5"
        :style="{ gridTemplateColumns: template }">
        <slot name="head" />
      </div>
      <div class="relative" role="rowgroup" :style="{ height: `${virtual.getTotalSize()}px` }">
        <div
          v-for="item in drawn"
          :key="keyOf(item.row)"
          role="row"
          :aria-rowindex="item.index + 2"
          class="absolute left-0 grid w-full items-center border-b border-line"
          :class="rowClass?.(item.row)"
          :style="{
            gridTemplateColumns: template,
            height: `${heightOf(item.row)}px`,
            transform: `translateY(${item.start}px)`,
          }">
          <slot :row="item.row" />
        </div>
      </div>
      <p v-if="!rows.length && nothing" class="p-6 text-soft">{{ nothing }}</p>
    </div>
  </Grid>
</template>
