<script setup lang="ts">
import type { ShownPicture } from '~~/core/pictures/picture-file'
import { pictureSizes } from './picture-sizes'
import Weave from './Weave.vue'

/** A picture at the sizes there are of it, or a pattern woven in its place. */
const props = defineProps<{ picture: string | Partial<ShownPicture>; palette: string; alt?: string }>()
const image = computed(() => {
  const { src, srcset, width, height } = props.picture as Partial<ShownPicture>
  return { src, srcset, sizes: srcset && pictureSizes, width, height }
})
</script>

<template>
  <Weave v-if="typeof picture === 'string'" :pattern="picture" :palette="palette" :alt="alt ?? ''" />
  <img v-else v-bind="image" :alt="alt ?? ''" />
</template>
