<script setup lang="ts">
import type { ViewOf } from './shown'

defineProps<{ block: ViewOf<'accent'> }>()
</script>

<template>
  <div class="accent" :class="block.look">
    <slot name="blocks" :blocks="block.blocks" />
  </div>
</template>
