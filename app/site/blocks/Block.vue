<script setup lang="ts">
import type { ViewBlock } from '~~/core/view/view'
import { partShown } from '~/site/page-view'
import { shownAs } from './shown'

/** A part of a page as the visitor gets it. */
const props = defineProps<{ block: ViewBlock }>()
const parts = inject(partShown, undefined)
const shown = computed(() => (props.block.kind === 'part' && parts) || shownAs[props.block.kind])
</script>

<template>
  <component :is="shown" :block="block">
    <template #blocks="{ blocks }">
      <Block v-for="(inner, i) in blocks as ViewBlock[]" :key="i" :block="inner" />
    </template>
  </component>
</template>
