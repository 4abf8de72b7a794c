<script setup lang="ts">
import type { ViewOf } from '~/blocks/shown'

defineProps<{ block: ViewOf<'list'> }>()
</script>

<template>
  <section class="list">
    <h2 v-if="block.title">
      {{ block.title }}
    </h2>
    <SiteListed :things="block.things" />
  </section>
</template>
