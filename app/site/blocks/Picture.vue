<script setup lang="ts">
import Seen from './Seen.vue'
import type { ViewOf } from './shown'

defineProps<{ block: ViewOf<'picture'> }>()
</script>

<template>
  <figure class="picture">
    <Seen :sight="block" />
    <figcaption v-if="block.caption">
      {{ block.caption }}
    </figcaption>
  </figure>
</template>
