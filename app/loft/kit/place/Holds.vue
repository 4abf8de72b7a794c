<script setup lang="ts">
/** When a change holds: the same mark wherever something is changed. */
defineProps<{ when: 'once' | 'next' }>()
</script>

<template>
  <span class="holds" :class="when">{{ when === 'once' ? 'at once' : 'next edition' }}</span>
</template>
