<script setup lang="ts">
import type { ViewOf } from '~/blocks/shown'

defineProps<{ block: ViewOf<'menu'> }>()
const say = useSay()
</script>

<template>
  <nav class="menu" :aria-label="block.title || say('page.more')">
    <h2 v-if="block.title">
      {{ block.title }}
    </h2>
    <SiteMenu :items="block.items" />
  </nav>
</template>
