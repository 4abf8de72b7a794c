<script setup lang="ts">
import { useSay } from '~/site/site-say'
import Seen from './Seen.vue'
import type { ViewOf } from './shown'

/** A part out of reach: its shape, and what of its words may be told. Nothing in it leads anywhere. */
defineProps<{ block: ViewOf<'dimmed'> }>()
const say = useSay()
</script>

<template>
  <section class="dimmed for-some" :aria-label="say('part.dimmed')">
    <h2 v-if="block.title">{{ block.title }}</h2>
    <Seen v-if="block.sight" :sight="block.sight" />
    <i v-else-if="block.picture" class="outline" />
    <p v-if="block.words">{{ block.words }}</p>
    <template v-if="!block.sight && !block.picture"><span v-for="line in block.lines" :key="line" /></template>
    <b v-if="block.label" class="button plain locked">{{ block.label }}</b>
  </section>
</template>
