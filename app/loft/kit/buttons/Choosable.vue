<script setup lang="ts">
/** One of a list beside a pane: pressed, the pane is of it. `look` is how it looks while it is the one. */
defineProps<{ on: boolean; look?: string }>()
</script>

<template>
  <button :class="on ? (look ?? 'bg-band') : ''" :aria-current="on ? 'true' : undefined"><slot /></button>
</template>
