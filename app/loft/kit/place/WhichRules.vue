<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import Segments from '~/loft/kit/fields/Segments.vue'

/** Which rules a place shows: those that are live, the draft, or, with `changes`, what differs between them. */
const props = defineProps<{ changes?: boolean }>()
const loft = useLoft()
const options = computed(() => [
  { value: 'live' as const, label: `Live · edition ${loft.edition}` },
  { value: 'draft' as const, label: 'Draft' },
  ...(props.changes ? [{ value: 'changes' as const, label: 'Only changes' }] : []),
])
const shown = computed({
  get: () => (props.changes || loft.view === 'live' ? loft.view : 'draft'),
  set: view => (loft.view = view),
})
</script>

<template>
  <Segments v-model="shown" label="Which rules" :options="options" />
</template>
