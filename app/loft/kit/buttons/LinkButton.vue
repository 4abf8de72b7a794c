<script setup lang="ts">
/** A button that reads like a link; `name` where what it says is too short to be called by. */
defineProps<{ name?: string }>()
</script>

<template>
  <button type="button" class="text-woad underline" :aria-label="name"><slot /></button>
</template>
