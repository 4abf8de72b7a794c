<script setup lang="ts">
import type { ViewOf } from '~/blocks/shown'

defineProps<{ block: ViewOf<'accent'> }>()
</script>

<template>
  <div class="accent" :class="block.look">
    <SiteBlock v-for="(inner, i) in block.blocks" :key="i" :block="inner" />
  </div>
</template>
