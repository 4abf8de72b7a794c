<script setup lang="ts">
import SiteMenu from '~/site/Menu.vue'
import { useSay } from '~/site/site-say'
import type { ViewOf } from './shown'

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
