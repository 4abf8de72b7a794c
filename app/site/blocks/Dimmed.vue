<script setup lang="ts">
import Shown from '~/site/Shown.vue'
import { useSay } from '~/site/site-say'
import type { ViewOf } from './shown'

/** A part out of reach: its shape, and what of its words may be told. Nothing in it leads anywhere. */
defineProps<{ block: ViewOf<'dimmed'> }>()
const say = useSay()
</script>

<template>
  <section class="dimmed for-some" :aria-label="say('part.dimmed')">
    <h2 v-if="block.title">{{ block.title }}</h2>
    <Shown
      v-if="block.sight"
      :picture="block.sight.src ? block.sight : (block.sight.pattern ?? 'plain')"
      :palette="block.sight.palette ?? 'fleece'"
      :alt="block.sight.alt"
      :loading="block.sight.src ? 'lazy' : undefined" />
    <i v-else-if="block.picture" class="outline" />
    <template v-else
      ><p v-if="block.words">{{ block.words }}</p>
      <span v-for="line in block.lines" :key="line"
    /></template>
    <b v-if="block.label" class="button plain locked">{{ block.label }}</b>
  </section>
</template>
