<script setup lang="ts">
import type { ViewOf } from '~/blocks/shown'

defineProps<{ block: ViewOf<'dimmed'> }>()
</script>

<template>
  <section class="dimmed" aria-label="A part for members">
    <span v-for="line in block.lines" :key="line" />
  </section>
</template>
