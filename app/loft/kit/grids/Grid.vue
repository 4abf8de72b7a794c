<script setup lang="ts">
import type { GridWalk } from './walk'

/** A grid that is walked with the keys: one stop for the tab key, arrows from cell to cell, and keys of its own. */
const props = defineProps<GridWalk & { label: string; /** How many there are. */ rows: number }>()
const emit = defineEmits<{ go: [row: number, column: number] }>()
const root = ref<HTMLElement | null>(null)
const page = 15
const within = (value: number, count: number) => Math.min(count - 1, Math.max(0, value))
const moves: Record<string, () => [number, number]> = {
  ArrowUp: () => [-1, 0],
  ArrowDown: () => [1, 0],
  ArrowLeft: () => [0, -1],
  ArrowRight: () => [0, 1],
  PageUp: () => [-page, 0],
  PageDown: () => [page, 0],
  Home: () => [-props.rows, 0],
  End: () => [props.rows, 0],
}
function onKey(event: KeyboardEvent) {
  // What stands in a cell, such as a field, has keys of its own.
  if (event.ctrlKey || event.metaKey || event.altKey || event.target !== root.value) return
  const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
  const by = moves[key]?.()
  const act = props.acts?.[key]
  const begins = !by && !act && event.key.length === 1 && key !== ' ' ? props.typed : undefined
  if (!by && !act && !begins) return
  event.preventDefault()
  if (by && props.rows) emit('go', within(props.row + by[0], props.rows), within(props.column + by[1], props.columns))
  else if (begins) begins(event.key)
  else act?.()
}
defineExpose({ element: root, focus: () => root.value?.focus() })
</script>

<template>
  <div
    ref="root"
    class="overflow-auto outline-none"
    role="grid"
    tabindex="0"
    :aria-label="label"
    :aria-rowcount="rows + 1"
    :aria-colcount="columns + 1"
    :aria-activedescendant="active"
    @keydown="onKey">
    <slot />
  </div>
</template>
