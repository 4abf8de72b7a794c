<script setup lang="ts">
import type { ViewOf } from './shown'

const props = defineProps<{ block: ViewOf<'group' | 'panels'> }>()
/** At most so many side by side, by the width there is. */
const most = computed(() =>
  props.block.kind === 'panels' ? Object.entries(props.block.most ?? {}).map(([width, n]) => `${width}-${n}`) : [],
)
</script>

<template>
  <section :class="[block.kind, ...most]">
    <h2 v-if="block.title">
      {{ block.title }}
    </h2>
    <slot name="blocks" :blocks="block.blocks" />
  </section>
</template>
