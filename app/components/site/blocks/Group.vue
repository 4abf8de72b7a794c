<script setup lang="ts">
import type { ViewOf } from '~/blocks/shown'

defineProps<{ block: ViewOf<'group' | 'panels'> }>()
</script>

<template>
  <section :class="block.kind">
    <h2 v-if="block.title">
      {{ block.title }}
    </h2>
    <SiteBlock v-for="(inner, i) in block.blocks" :key="i" :block="inner" />
  </section>
</template>
