<script setup lang="ts">
import type { ViewOf } from './shown'

defineProps<{ block: ViewOf<'text'> }>()
</script>

<template>
  <!-- eslint-disable vue/no-v-html -- rendered on the server from Markdown that passes no HTML through -->
  <section class="text">
    <h2 v-if="block.title">
      {{ block.title }}
    </h2>
    <div v-html="block.html" />
  </section>
  <!-- eslint-enable vue/no-v-html -->
</template>
