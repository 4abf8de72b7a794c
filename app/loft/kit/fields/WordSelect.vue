<script setup lang="ts">
/** One of a few words within a sentence; the word for an empty value says what holds while nothing is chosen. */
defineProps<{ value: string; words: Readonly<Record<string, string>>; label?: string; disabled?: boolean }>()
const emit = defineEmits<{ change: [value: string] }>()
</script>

<template>
  <select
    class="input !w-auto !px-1 !py-0.5"
    :value="value"
    :disabled="disabled"
    :aria-label="label"
    @change="emit('change', ($event.target as HTMLSelectElement).value)">
    <option v-for="(word, key) in words" :key="key" :value="key">{{ word }}</option>
  </select>
</template>
