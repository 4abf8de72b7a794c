<script setup lang="ts">
/** What became of what was just done: a problem, or a word of success. */
defineProps<{ problem?: string; done?: string }>()
</script>

<template>
  <p v-if="problem" class="wrong" role="alert">
    {{ problem }}
  </p>
  <p v-else-if="done" role="status" class="text-moss">
    {{ done }}
  </p>
</template>
