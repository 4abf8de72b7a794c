<script setup lang="ts">
import { shownAs } from '~/blocks/shown'
import type { ViewBlock } from '~~/core/pages/view'

/** A part of a page as the visitor gets it. */
const props = defineProps<{ block: ViewBlock }>()
const parts = inject(partShown, undefined)
const shown = computed(() => (props.block.kind === 'part' && parts) || shownAs[props.block.kind])
</script>

<template>
  <component :is="shown" :block="block" />
</template>
