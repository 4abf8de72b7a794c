<script setup lang="ts">
/** A gate stands here and is switched off. */
defineProps<{ gates: string }>()
</script>

<template>
  <span class="asleep" :title="`Switched off here: ${gates}`"
    >gate off<span class="sr-only">: {{ gates }}</span></span
  >
</template>
