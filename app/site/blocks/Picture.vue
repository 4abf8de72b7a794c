<script setup lang="ts">
import { pictureSizes } from '~/site/picture-sizes'
import Weave from '~/site/Weave.vue'
import type { ViewOf } from './shown'

defineProps<{ block: ViewOf<'picture'> }>()
</script>

<template>
  <figure class="picture">
    <img
      v-if="block.src"
      :src="block.src"
      :srcset="block.srcset"
      :sizes="block.srcset && pictureSizes"
      :alt="block.alt"
      :width="block.width"
      :height="block.height"
      loading="lazy" />
    <Weave v-else :pattern="block.pattern ?? 'plain'" :palette="block.palette ?? 'fleece'" :alt="block.alt" />
    <figcaption v-if="block.caption">
      {{ block.caption }}
    </figcaption>
  </figure>
</template>
