<script setup lang="ts">
import Listed from '~/site/Listed.vue'
import type { ViewOf } from './shown'

defineProps<{ block: ViewOf<'list'> }>()
</script>

<template>
  <section class="list">
    <h2 v-if="block.title">
      {{ block.title }}
    </h2>
    <Listed :things="block.things" />
  </section>
</template>
