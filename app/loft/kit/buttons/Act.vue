<script setup lang="ts">
/** A button that does something; `name` where what it says is too short to be called by. */
defineProps<{ name?: string; quiet?: boolean; small?: boolean }>()
</script>

<template>
  <button type="button" class="btn" :class="{ quiet, small }" :aria-label="name"><slot /></button>
</template>
