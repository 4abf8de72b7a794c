<script setup lang="ts">
import Shown from '~/site/Shown.vue'
import type { ViewOf } from './shown'

defineProps<{ block: ViewOf<'picture'> }>()
</script>

<template>
  <figure class="picture">
    <Shown
      :picture="block.src ? block : (block.pattern ?? 'plain')"
      :palette="block.palette ?? 'fleece'"
      :alt="block.alt"
      :loading="block.src ? 'lazy' : undefined" />
    <figcaption v-if="block.caption">
      {{ block.caption }}
    </figcaption>
  </figure>
</template>
