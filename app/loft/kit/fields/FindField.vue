<script setup lang="ts">
/** A line to find by; what is found by it is its name. */
defineProps<{ what: string; /** Said in it while it is empty; the name unless told. */ hint?: string }>()
const text = defineModel<string>({ required: true })
</script>

<template>
  <input v-model="text" type="search" class="input" :placeholder="hint ?? what" :aria-label="what" />
</template>
