<script setup lang="ts">
import type { ViewBlock } from '~~/core/view/view'

/** A part as it is sent, without what is about writing it. */
defineProps<{ block: ViewBlock & { kind: 'part' } }>()
</script>

<template>
  <slot name="blocks" :blocks="block.blocks" />
</template>
