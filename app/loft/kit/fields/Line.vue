<script setup lang="ts">
import { useWritable } from './writable'

/** A line to write in, within a sentence or a row: it has a name instead of a label. `set` once it is done, `typed` as it is typed. */
defineProps<{ value?: string | number | null; name?: string; disabled?: boolean }>()
const may = useWritable()
const emit = defineEmits<{ set: [text: string]; typed: [text: string] }>()
const text = (event: Event) => (event.target as HTMLInputElement).value
</script>

<template>
  <input
    class="input"
    :value="value"
    :aria-label="name"
    :disabled="disabled || !may()"
    @input="emit('typed', text($event))"
    @change="emit('set', text($event))" />
</template>
