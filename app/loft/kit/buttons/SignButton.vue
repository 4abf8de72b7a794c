<script setup lang="ts">
/** A button that shows a sign, such as × or ↑, and is called by a name. */
defineProps<{ sign: string; name: string }>()
</script>

<template>
  <button type="button" :aria-label="name">{{ sign }}</button>
</template>
